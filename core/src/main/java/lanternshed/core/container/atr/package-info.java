/** Small disks of the eight-bit computers with a header. */
package lanternshed.core.container.atr;
