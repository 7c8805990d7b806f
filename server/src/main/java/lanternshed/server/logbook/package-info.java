/** The logbook: one line at a time, with readings kept as numbers. */
package lanternshed.server.logbook;
