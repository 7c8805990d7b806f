/** Pictures from the bench, and the fasteners marked on them. */
package lanternshed.server.pictures;
