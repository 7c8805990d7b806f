/** Jobs and their ten stations. */
package lanternshed.server.jobs;
