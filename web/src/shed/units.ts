import { defineStore } from 'pinia'
import { ref } from 'vue'

/** How a depth is written. */
export type Unit = 'MiB' | 'MB' | 'sectors' | 'C/H/S'

const ORDER: Unit[] = ['MiB', 'MB', 'sectors', 'C/H/S']

export interface Geometry {
  cylinders: number
  heads: number
  sectors: number
}

/** Thousands set apart by thin spaces. */
export function count(n: number): string {
  return String(Math.abs(n))
    .replace(/\B(?=(\d{3})+(?!\d))/g, '\u202F')
    .replace(/^/, n < 0 ? '−' : '')
}

function tenths(bytes: number, unit: number): string {
  const whole = Math.floor(bytes / unit)
  return `${count(whole)}.${Math.floor(((bytes % unit) * 10) / unit)}`
}

/** A number of sectors of 512 bytes in a unit, rounded down like the core does. */
export function inUnit(sectors: number, unit: Unit, g?: Geometry): string {
  const bytes = sectors * 512
  if (unit === 'MiB') return `${tenths(bytes, 1_048_576)} MiB`
  if (unit === 'MB') return `${tenths(bytes, 1_000_000)} MB`
  if (unit === 'C/H/S' && g) {
    const track = Math.floor(sectors / g.sectors)
    return `${count(Math.floor(track / g.heads))}/${track % g.heads}/${(sectors % g.sectors) + 1}`
  }
  return `${count(sectors)} sectors`
}

/** The unit that the person has chosen, kept on this computer. */
export const useUnit = defineStore('unit', () => {
  const kept = localStorage.getItem('shed.unit') as Unit | null
  const unit = ref<Unit>(kept && ORDER.includes(kept) ? kept : 'MiB')
  function next(): void {
    unit.value = ORDER[(ORDER.indexOf(unit.value) + 1) % ORDER.length]
    localStorage.setItem('shed.unit', unit.value)
  }
  return { unit, next }
})

/** An allocation unit or what is wasted of it: bytes below one KiB, tenths of KiB below one MiB. */
export function unitSize(bytes: number): string {
  if (bytes < 1024 && bytes % 1024) return `${bytes} B`
  return bytes < 1_048_576 ? `${Math.floor(bytes / 102.4) / 10} KiB` : inUnit(bytes / 512, 'MiB')
}

/** Bytes in the chosen unit; below one MiB in KiB, so that a small disk is no row of zeros. */
export function sizeIn(bytes: number, unit: Unit): string {
  return unit === 'MiB' ? unitSize(bytes) : inUnit(bytes / 512, unit)
}
