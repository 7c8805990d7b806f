/** Small 8-bit disks of linked sectors with their map in sector 360. */
package lanternshed.core.volume.linked;
