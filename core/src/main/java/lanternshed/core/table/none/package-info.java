/** A medium without a table: one volume has it for itself (P-30). */
package lanternshed.core.table.none;
