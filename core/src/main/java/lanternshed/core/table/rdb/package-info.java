/** The block-chained table of 68000 computers. */
package lanternshed.core.table.rdb;
