/** OFS and FFS in all six kinds: read, checked, mended and made. */
package lanternshed.core.volume.ffs;
