/** The partition map of 68000 and later computers with two-letter marks: read and listed. */
package lanternshed.core.table.apm;
