/** The master boot record with its chain of extended tables. */
package lanternshed.core.table.mbr;
