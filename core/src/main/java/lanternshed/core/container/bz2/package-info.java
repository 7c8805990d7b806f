/** bzip2. */
package lanternshed.core.container.bz2;
