/** Small 8-bit disks of linked blocks with a map of blocks on a middle track. */
package lanternshed.core.volume.linkmap;
