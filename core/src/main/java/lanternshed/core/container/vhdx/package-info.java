/** VHDX without a log to replay. */
package lanternshed.core.container.vhdx;
