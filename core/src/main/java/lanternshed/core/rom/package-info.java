/**
 * ROMs without which a machine does not see its card: what an image is, what a chip takes of it,
 * and what a read-back says (O-1 to O-8). Images are whole in memory; none is longer than {@link
 * lanternshed.core.rom.Chip#MOST}.
 */
package lanternshed.core.rom;
