/** A zip with one image. */
package lanternshed.core.container.zip;
