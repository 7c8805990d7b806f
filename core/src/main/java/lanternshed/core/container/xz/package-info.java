/** xz. */
package lanternshed.core.container.xz;
