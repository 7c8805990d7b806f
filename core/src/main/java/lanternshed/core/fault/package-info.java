/**
 * What is at fault: parts, tests, the smallest explanations of them, the next test; symptoms and
 * start-up logs (D-1 to D-8). Knows nothing of media or images.
 */
package lanternshed.core.fault;
