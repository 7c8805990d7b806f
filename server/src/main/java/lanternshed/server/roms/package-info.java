/** Images of ROMs, what they are made into, and what their chips read back (O-1 to O-12). */
package lanternshed.server.roms;
