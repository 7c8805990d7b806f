/** How 68000 computers with a block-chained table start. */
package lanternshed.core.boot.rdb;
