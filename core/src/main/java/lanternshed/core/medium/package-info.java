/**
 * Anything with numbered sectors: one small interface, many plain implementations and stand-ins.
 */
package lanternshed.core.medium;
