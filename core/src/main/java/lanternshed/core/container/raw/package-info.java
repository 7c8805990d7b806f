/** Images as they are. */
package lanternshed.core.container.raw;
