/** Z-5: which card holds which image, of which machine, since when, and where it lies. */
package lanternshed.server.register;
