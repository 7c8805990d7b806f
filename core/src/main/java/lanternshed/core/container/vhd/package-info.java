/** Virtual hard disks that grow with their content (Virtual Hard Disk Image Format 1.0). */
package lanternshed.core.container.vhd;
