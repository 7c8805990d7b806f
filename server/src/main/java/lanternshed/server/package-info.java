/** The server: one package a subject, each with its controller, service, entity and repository. */
package lanternshed.server;
