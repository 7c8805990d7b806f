/** FAT12, FAT16 and FAT32: layout, table, folders, check, format, build. */
package lanternshed.core.volume.fat;
