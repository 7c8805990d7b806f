/**
 * What ties a kind of machine to its table, its filesystems, its letters, its boot path and what is
 * typed on it. The only room above {@code catalogue} that may name a format.
 */
package lanternshed.core.family;
