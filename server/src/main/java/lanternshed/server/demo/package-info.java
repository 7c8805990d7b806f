/** Lays out the demonstration: Saltern Mill, everything made up, every medium real to the byte. */
package lanternshed.server.demo;
