/** How 68000 computers with a root sector of 512 bytes start. */
package lanternshed.core.boot.ahdi;
