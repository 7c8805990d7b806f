/** exFAT, read only: carrier cards. */
package lanternshed.core.volume.exfat;
