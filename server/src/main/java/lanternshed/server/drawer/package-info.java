/** The parts drawer, and the chain from a machine's board to its card (H-1 to H-16). */
package lanternshed.server.drawer;
