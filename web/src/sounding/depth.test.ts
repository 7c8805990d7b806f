import { describe, expect, it } from 'vitest'
import { depth, marks, sectorAt, spread } from './depth'

describe('the depth of a sector', () => {
  it('is 0 at the surface, 1 at the bottom, and never outside', () => {
    for (const log of [true, false]) {
      expect(depth(0, 1_000_000, log)).toBe(0)
      expect(depth(1_000_000, 1_000_000, log)).toBe(1)
      expect(depth(-5, 1_000_000, log)).toBe(0)
      expect(depth(9_000_000, 1_000_000, log)).toBe(1)
    }
  })

  it('gives its sector back', () => {
    for (const log of [true, false]) {
      for (const s of [0, 63, 2048, 262_143, 1_032_192, 15_625_215]) {
        const d = depth(s, 15_625_216, log)
        expect(Math.abs(sectorAt(d, 15_625_216, log) - s)).toBeLessThanOrEqual(1)
      }
    }
  })

  it('has marks inside the medium only', () => {
    expect(marks(1_032_192, true)).toEqual([0, 2048, 8192, 32768, 131072, 524288])
    expect(marks(100, false)).toEqual([0, 25, 50, 75, 100])
  })
})

describe('labels', () => {
  it('keep their gap and stay between top and bottom', () => {
    const y = spread([10, 12, 14, 300, 301], 30, 0, 320)
    for (let i = 1; i < y.length; i++) expect(y[i] - y[i - 1]).toBeGreaterThanOrEqual(30)
    expect(y[4]).toBeLessThanOrEqual(320)
    expect(y[0]).toBeGreaterThanOrEqual(0)
  })
})
