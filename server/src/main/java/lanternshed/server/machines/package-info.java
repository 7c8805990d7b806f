/** The catalogue of machine profiles. */
package lanternshed.server.machines;
