/** Filesystems of Unix-like systems and their swap, recognised with label and use. */
package lanternshed.core.volume.unix;
