/** How files come onto a machine and off it, and how long each road takes (T-9). */
package lanternshed.core.transfer;
