/** A whole job as one file: written by one shed, and taken in by another. */
package lanternshed.server.archive;
