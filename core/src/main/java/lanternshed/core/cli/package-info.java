/**
 * The command line over the same core: {@code ./shed image …}, {@code ./shed pegs}, {@code ./shed
 * bench}.
 */
package lanternshed.core.cli;
