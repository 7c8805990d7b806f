import { computed, type Ref } from 'vue'
import type { Peg, Range } from '../api/client'
import { type Geometry, inUnit, useUnit } from '../shed/units'
import { depth } from './depth'

export interface Stratum {
  letter: string
  label: string
  start: number
  end: number
  note?: string
  /** What stands beside it, a line each; the first is its heading. */
  facts?: string[]
}

/** The medium that the content comes from, and where each of its volumes goes. */
export interface Old {
  total: number
  strata: Stratum[]
  /** From an old stratum to a new one, with what is to be said of it. */
  ribbons: { from: number; to: number; lines: string[] }[]
}

/** A place with a name: what a hole hits. */
export interface Mark {
  at: number
  text: string
  note: string
}

/** What a sounding shows. */
export interface Shown {
  title: string
  note?: string
  total: number
  strata: Stratum[]
  pegs?: Peg[]
  binding?: Peg
  reach?: number
  ranges?: Range[]
  /** Nanoseconds a sector of the slowest read in each part of the medium, from the top. */
  slowest?: number[]
  marks?: Mark[]
  movable?: boolean
  geometry?: Geometry
  straight?: boolean
  old?: Old
}

/** The column that every layer draws on: where it stands, and how deep a sector lies. */
export interface Column {
  top: number
  /** Where the marks of the scale end and the first column begins. */
  scale: number
  left: number
  wide: number
  high: number
  bottom: number
  oldWide: number
  ribbon: number
  total: number
  span: number
  log: boolean
  /** The old medium where it is drawn beside the new one. */
  both?: Old
  /** How deep what is out of reach begins; absent where nothing is. */
  water?: number
  y: (sector: number) => number
  /** Sectors in the unit that is chosen. */
  text: (sectors: number) => string
}

/** Pixels of a line of facts, and of a peg with its figure. */
export const LINE = 19
export const GAP = 40

const TOP = 12
const SCALE = 104
/** Letters that the scale has room for, and pixels of a further one. */
const USUAL = 10
const DIGIT = 9
const OLD_WIDE = 96
const RIBBON = 150
const STRIP = 34

/**
 * A column as high as its box.
 *
 * @param log whether depth is logarithmic; old and new side by side need one straight depth
 */
export function useColumn(shown: Shown, log: Ref<boolean>, boxHeight: Ref<number>) {
  const unit = useUnit()
  return computed<Column>(() => {
    const both = shown.old && !log.value ? shown.old : undefined
    const reach = Math.max(shown.reach ?? shown.total, shown.old?.total ?? 0)
    // The straight scale covers all that is used; water below it is drawn short, with its size.
    const span = log.value
      ? shown.total
      : Math.min(Math.max(shown.total, shown.old?.total ?? 0), reach)
    const strip = shown.total > span ? STRIP : 0
    const high = Math.max(220, boxHeight.value - TOP * 2 - strip)
    const text = (sectors: number) => inUnit(sectors, unit.unit, shown.geometry)
    // Figures of many digits need more room than the usual ones.
    const scale = SCALE + Math.max(0, text(span).length - USUAL) * DIGIT
    const y = (sector: number) => TOP + depth(Math.min(sector, span), span, log.value) * high
    return {
      top: TOP,
      scale,
      left: scale + (both ? OLD_WIDE + RIBBON : 0),
      wide: both ? 136 : 150,
      high,
      bottom: Math.min(TOP + high, y(shown.total)) + strip,
      oldWide: OLD_WIDE,
      ribbon: RIBBON,
      total: shown.total,
      span,
      log: log.value,
      both,
      water: shown.reach !== undefined && shown.reach < shown.total ? y(shown.reach) : undefined,
      y,
      text,
    }
  })
}

/** Whether a peg is the one that binds. */
export function binds(shown: Shown, p: Peg): boolean {
  return p.rule === shown.binding?.rule && p.sectors === shown.binding?.sectors
}
