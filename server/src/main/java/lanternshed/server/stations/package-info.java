/** The ten stations, which every room knows by name. */
package lanternshed.server.stations;
