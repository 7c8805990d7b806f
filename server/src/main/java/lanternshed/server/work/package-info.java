/** Long work that survives a restart: rescue, build, write. */
package lanternshed.server.work;
