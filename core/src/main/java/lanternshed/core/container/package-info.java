/**
 * Files that carry an image: raw, gzip, zip with one image, xz, fixed-size VHD; told by content.
 */
package lanternshed.core.container;
