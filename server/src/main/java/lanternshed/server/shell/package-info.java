/**
 * What every subject needs: settings, the shelf, the guard at the door, problems in words, events.
 */
package lanternshed.server.shell;
