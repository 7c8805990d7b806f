/** The table of today's computers, read so that a modern card is recognised. */
package lanternshed.core.table.gpt;
