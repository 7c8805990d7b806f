/** Reading and copying that takes longer than a request may, and says how far it is. */
package lanternshed.server.errands;
