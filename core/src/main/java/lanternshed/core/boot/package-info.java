/**
 * Boot code of our own, and the walk along the chain that a machine walks from power-on to its
 * loader.
 */
package lanternshed.core.boot;
