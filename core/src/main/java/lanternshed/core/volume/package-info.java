/** Filesystems: one package each, all behind {@link lanternshed.core.volume.Volume}. */
package lanternshed.core.volume;
