/** Every calculation by itself, with no job. */
package lanternshed.server.reckoner;
