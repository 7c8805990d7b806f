/**
 * From machine, survey and card to a layout of volumes, every figure of which can be asked
 * "because".
 */
package lanternshed.core.plan;
