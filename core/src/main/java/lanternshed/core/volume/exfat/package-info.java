/** exFAT: read, checked, mended, and made with files in one piece: carrier cards. */
package lanternshed.core.volume.exfat;
