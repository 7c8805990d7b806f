/** VMDK as one sparse file, plain and packed for sending. */
package lanternshed.core.container.vmdk;
