/** Files brought from a desktop for a job that has no old drive. */
package lanternshed.server.files;
