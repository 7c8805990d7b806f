/** OFS and FFS, recognised with their label. */
package lanternshed.core.volume.ffs;
