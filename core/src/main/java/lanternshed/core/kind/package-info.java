/**
 * What a file is by its content, by published structures and not by its name alone (T-5, T-11):
 * recorded tapes, tape images, small disks, programs in segments, BASIC as tokens, texts.
 */
package lanternshed.core.kind;
