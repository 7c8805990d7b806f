/** How a PC starts: firmware, sector 0, boot sector, system file; and code of our own for both. */
package lanternshed.core.boot.pc;
