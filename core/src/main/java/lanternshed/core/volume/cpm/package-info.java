/** CP/M 2.2 by sets of parameters: read, checked and made. */
package lanternshed.core.volume.cpm;
