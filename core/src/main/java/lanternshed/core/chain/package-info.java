/**
 * From the machine's board to the card: which parts join, and what that chain means (H-1 to H-16).
 */
package lanternshed.core.chain;
