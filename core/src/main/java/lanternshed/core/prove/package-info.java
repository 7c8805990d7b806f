/**
 * What the machine shows and how long it takes, held against what was foretold and against what it
 * was before (V-1 to V-5).
 */
package lanternshed.core.prove;
