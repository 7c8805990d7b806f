/**
 * Files that carry an image, one package a form. {@link lanternshed.core.container.Container}s are
 * unpacked while they stream; {@link lanternshed.core.container.DiskImage}s are files whose blocks
 * lie anywhere.
 */
package lanternshed.core.container;
