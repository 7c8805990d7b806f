/** Bytes, sectors, geometry, and the arithmetic that the program can show for every figure. */
package lanternshed.core.measure;
