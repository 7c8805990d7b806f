/** lzma, before it was xz. */
package lanternshed.core.container.lzma;
