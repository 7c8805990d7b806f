/**
 * Libraries: one file that holds a row of small disks (F-16); the forms of their headers are data.
 */
package lanternshed.core.table.library;
