/** QCOW2, versions 2 and 3. */
package lanternshed.core.container.qcow2;
