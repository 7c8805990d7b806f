/** HFS and HFS+, recognised with their label. */
package lanternshed.core.volume.hfs;
