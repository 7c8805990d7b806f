/**
 * Partition tables: one package a scheme, all behind {@link lanternshed.core.table.TableScheme}.
 */
package lanternshed.core.table;
