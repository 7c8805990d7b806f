/** How deep a sector is drawn, between 0 and 1. */
export function depth(sector: number, total: number, log: boolean): number {
  if (total <= 0) return 0
  const s = Math.max(0, Math.min(sector, total))
  if (!log) return s / total
  // One MiB is the unit of the logarithm: what is smaller stays visible, what is larger is drawn together.
  return Math.log1p(s / 2048) / Math.log1p(total / 2048)
}

/** The sector at a depth; the inverse of {@link depth}. */
export function sectorAt(d: number, total: number, log: boolean): number {
  const x = Math.max(0, Math.min(d, 1))
  if (!log) return Math.round(x * total)
  return Math.round(Math.expm1(x * Math.log1p(total / 2048)) * 2048)
}

/** Places for labels that may not stand on each other, as near as possible to where they want to be. */
export function spread(wanted: number[], gap: number, top: number, bottom: number): number[] {
  const out: number[] = []
  wanted.forEach((y, i) => out.push(Math.max(y, i === 0 ? top : out[i - 1] + gap)))
  for (let i = out.length - 1; i >= 0; i--) {
    const limit = i === out.length - 1 ? bottom : out[i + 1] - gap
    if (out[i] > limit) out[i] = limit
  }
  return out
}

/** The same for blocks of different heights: the top of each, as near as possible to where it wants to be. */
export function stack(
  blocks: { wanted: number; height: number }[],
  top: number,
  bottom: number,
): number[] {
  const out: number[] = []
  blocks.forEach((b, i) =>
    out.push(Math.max(b.wanted, i === 0 ? top : out[i - 1] + blocks[i - 1].height)),
  )
  for (let i = out.length - 1; i >= 0; i--) {
    const limit = (i === out.length - 1 ? bottom : out[i + 1]) - blocks[i].height
    if (out[i] > limit) out[i] = Math.max(top, limit)
  }
  return out
}

/** Sectors at which the scale has a mark. */
export function marks(total: number, log: boolean): number[] {
  if (!log) return [0, 0.25, 0.5, 0.75, 1].map((x) => Math.round(x * total))
  const out = [0]
  for (let mib = 1; mib * 2048 < total; mib *= 4) out.push(mib * 2048)
  return out
}
