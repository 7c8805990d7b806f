/**
 * Device nodes: what the system says of them, which may be opened, and the reader process that
 * opens them for a server without rights of its own.
 */
package lanternshed.core.node;
