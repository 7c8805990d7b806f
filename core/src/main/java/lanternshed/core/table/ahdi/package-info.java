/** The root sector of 68000 computers with a DMA bus. */
package lanternshed.core.table.ahdi;
