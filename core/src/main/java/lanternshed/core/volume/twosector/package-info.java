/** Small 8-bit disks whose catalogue is their first two sectors: read, checked and made. */
package lanternshed.core.volume.twosector;
