/** VDI, growing and fixed. */
package lanternshed.core.container.vdi;
