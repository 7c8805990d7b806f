/**
 * The NT generation's own filesystem, recognised with its length and label; it is cloned, never
 * rebuilt (F-14).
 */
package lanternshed.core.volume.ntfs;
