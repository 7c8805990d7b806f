import { afterEach, describe, expect, it } from 'vitest'
import type { Peg } from '../api/client'
import { useBecause } from '../because/because'
import { useUnit } from '../shed/units'
import { show, sum } from '../test/page'
import Sounding from './Sounding.vue'

const binding: Peg = {
  rule: 'G-2',
  name: 'Plain C/H/S firmware',
  sectors: 1_032_192,
  scope: 'MEDIUM',
  because: sum,
}
const pegs: Peg[] = [
  { ...binding, rule: 'G-6', name: 'Disk call INT 13h', sectors: 16_450_560 },
  binding,
  { ...binding, rule: 'F-4', name: 'FAT16', sectors: 4_194_081, scope: 'VOLUME' },
]
const strata = [
  { letter: 'C', label: 'PATTERNS', start: 63, end: 262_080 },
  { letter: 'D', label: 'ARCHIVE', start: 262_143, end: 1_032_192 },
]
const geometry = { cylinders: 1024, heads: 16, sectors: 63 }
const props = {
  title: 'Sounding of the card',
  total: 15_625_216,
  strata,
  pegs,
  binding,
  reach: 1_032_192,
  geometry,
  movable: true,
}

const old = {
  total: 243_200,
  strata: [{ letter: 'C', label: 'OLD', start: 63, end: 243_000 }],
  ribbons: [{ from: 0, to: 0, lines: ['2 913 files over', '▲ 8 not whole', '+9.2 MiB'] }],
}

afterEach(() => {
  document.body.innerHTML = ''
  localStorage.clear()
})

describe('the sounding', () => {
  it('names every peg from the lowest down and says which one binds', () => {
    const w = show(Sounding, { props })
    const labels = w.findAll('div.absolute').map((l) => l.text())
    expect(labels[0]).toContain('Plain C/H/S firmware — binds')
    expect(labels[1]).toContain('(each volume)')
    expect(labels[2]).toContain('Disk call INT 13h ↓')
    expect(labels[0]).toContain('504.0 MiB')
  })

  it('has a table twin with the same words and figures', () => {
    const w = show(Sounding, { props })
    const rows = w.findAll('tbody tr').map((r) => r.text())
    expect(rows[0]).toContain('C PATTERNS')
    expect(rows.some((r) => r.includes('out of reach') && r.includes('504.0 MiB'))).toBe(true)
    expect(rows.filter((r) => r.startsWith('peg'))).toHaveLength(3)
    expect(rows.find((r) => r.includes('G-2'))).toContain('binds')
    expect(w.find('.sr-only table').exists()).toBe(true)
  })

  it('shows the table in place of the drawing with T', async () => {
    const w = show(Sounding, { props })
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 't' }))
    await w.vm.$nextTick()
    expect(w.find('table').classes()).not.toContain('sr-only')
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'g' }))
    await w.vm.$nextTick()
    expect(w.text()).toContain('depth: straight')
  })

  it('moves an edge by whole cylinders with the arrow keys', async () => {
    const w = show(Sounding, { props })
    const edge = w.findAll('[role=slider]')[0]
    expect(edge.attributes('aria-valuetext')).toBe('127.9 MiB')
    await edge.trigger('keydown', { key: 'ArrowDown' })
    await edge.trigger('keydown', { key: 'ArrowUp' })
    await edge.trigger('keydown', { key: 'PageDown' })
    expect(w.emitted('move')).toEqual([
      [0, 262_080 + 1008],
      [0, 262_080 - 1008],
      [0, 262_080 + 32 * 1008],
    ])
  })

  it('has no edges where nothing may move', () => {
    const w = show(Sounding, { props: { ...props, movable: false } })
    expect(w.findAll('[role=slider]')).toHaveLength(0)
  })

  it('hangs old and new at one straight depth, with what goes over and what lies past it', () => {
    const facts = ['C PATTERNS · 127.9 MiB · FAT16, 2 KiB', '63 to 262 079']
    const w = show(Sounding, {
      props: { ...props, straight: true, old, strata: [{ ...strata[0], facts }, strata[1]] },
    })
    const labels = w.findAll('div.absolute').map((l) => l.text())
    expect(labels.some((l) => l.includes('2 913 files over') && l.includes('8 not whole'))).toBe(
      true,
    )
    expect(labels.some((l) => l.startsWith('C PATTERNS · 127.9 MiB'))).toBe(true)
    expect(labels.some((l) => l.includes('binds'))).toBe(true)
    expect(w.find('p').text()).toMatch(/further down:.*FAT16, a volume.*Disk call INT 13h/)
    const rows = w.findAll('tbody tr').map((r) => r.text())
    expect(rows.find((r) => r.startsWith('old C OLD'))).toContain('2 913 files over')
    expect(rows[0]).toContain('63 to 262 079')
  })

  it('opens the sum of a peg', async () => {
    const w = show(Sounding, { props })
    await w.find('[data-why]').trigger('click')
    expect(useBecause().sum?.rule).toBe('G-2')
  })

  it('writes depths in the chosen unit', async () => {
    const w = show(Sounding, { props })
    const unit = useUnit()
    unit.next()
    await w.vm.$nextTick()
    expect(w.text()).toContain('528.4 MB')
    unit.next()
    await w.vm.$nextTick()
    expect(w.text()).toContain('1\u202f032\u202f192 sectors')
    unit.next()
    await w.vm.$nextTick()
    expect(w.text()).toContain('1\u202f024/0/1')
  })

  it('draws a rescue with what is read, late, failed and not read', () => {
    const ranges = [
      { start: 0, length: 5000, state: 'READ' },
      { start: 5000, length: 3, state: 'FAILED' },
      { start: 5003, length: 7, state: 'LATE' },
      { start: 5010, length: 90, state: 'UNREAD' },
    ]
    const marks = [{ at: 5000, text: 'WEAVE/HERON001.PAT', note: '3 sectors lost' }]
    const w = show(Sounding, {
      props: { title: 'Rescue', total: 5100, strata: [], ranges, marks, straight: true },
    })
    const titles = w.findAll('rect title').map((t) => t.text())
    expect(titles).toHaveLength(3)
    expect(titles[0]).toContain('failed, 3 sectors')
    expect(w.text()).toContain('WEAVE/HERON001.PAT')
    const rows = w.findAll('tbody tr').map((r) => r.text())
    expect(rows.some((r) => r.startsWith('failed'))).toBe(true)
  })
})
