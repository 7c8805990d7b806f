/** Machine profiles as data, and the ceilings ("pegs") that lie between a card and a file. */
package lanternshed.core.machine;
