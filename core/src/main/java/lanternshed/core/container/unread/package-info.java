/** Forms that are recognised though not read. */
package lanternshed.core.container.unread;
