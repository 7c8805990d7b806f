/**
 * Names as each kind of volume takes them (T-1), and where a set of files goes (T-3): arithmetic of
 * names only, blind to formats and to bytes.
 */
package lanternshed.core.names;
