/** CP/M 2.2, recognised by trying parameter sets. */
package lanternshed.core.volume.cpm;
