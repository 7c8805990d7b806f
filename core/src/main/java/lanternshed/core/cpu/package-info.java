/**
 * A processor in real mode, 8086 to 80586: it knows no disk and no screen; ports, firmware and
 * halts are handed out through {@link Bus}.
 */
package lanternshed.core.cpu;
