import type { Schemas } from '../api/client'

export type Read = Schemas['Read']

/** Reads that follow each other and hit the same thing, as one peg. */
export interface Peg {
  /** The first and the last of them, counted from 1. */
  first: number
  last: number
  lba: number
  what: string
  refused: boolean
  second: boolean
}

/** One peg for each run of reads of the same thing. */
export function pegs(reads: Read[]): Peg[] {
  const out: Peg[] = []
  reads.forEach((r, i) => {
    const p = out.at(-1)
    if (p && p.what === r.what && p.refused === r.refused && p.second === r.second) p.last = i + 1
    else out.push({ ...r, first: i + 1, last: i + 1 })
  })
  return out
}

/** As many pegs as have room, those about the read that is looked at. */
export function near(all: Peg[], at: number, room: number): Peg[] {
  const i = Math.max(
    0,
    all.findIndex((p) => at >= p.first && at <= p.last),
  )
  const from = Math.max(0, Math.min(i - Math.floor(room / 2), all.length - room))
  return all.slice(from, from + room)
}

/** Reads crowd at the front of a drive: a track of it is the unit of the logarithm. */
const UNIT = 64

/** How deep a sector is drawn, between 0 and 1, where the deepest read is at 1. */
export function readDepth(lba: number, deepest: number): number {
  const most = Math.log1p(Math.max(1, deepest) / UNIT)
  return Math.min(1, Math.log1p(Math.max(0, lba) / UNIT) / most)
}
