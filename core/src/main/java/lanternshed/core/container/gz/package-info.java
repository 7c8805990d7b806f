/** gzip. */
package lanternshed.core.container.gz;
