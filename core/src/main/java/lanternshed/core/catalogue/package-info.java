/** The only lists of formats, and the way from a medium to what is in it. */
package lanternshed.core.catalogue;
