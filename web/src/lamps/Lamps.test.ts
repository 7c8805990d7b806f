import { describe, expect, it } from 'vitest'
import { job, show, station } from '../test/page'
import LampRow from './LampRow.vue'
import { lampTitle } from './lamps'

describe('the lamp row', () => {
  it('has ten lamps, each with its word', () => {
    const w = show(LampRow, { props: { stations: job().stations } })
    const words = w.findAll('.sr-only').map((s) => s.text())
    expect(words).toHaveLength(10)
    expect(words[0]).toBe('Intake in hand')
    expect(words[9]).toBe('Close not yet')
  })

  it('links to the stations of a job and marks where one is', () => {
    const w = show(LampRow, { props: { stations: job().stations, job: 7, at: 3 } })
    expect(w.findAll('a').map((a) => a.attributes('href'))[4]).toBe('/jobs/7/5')
    expect(w.findAll('[aria-current=step]').map((a) => a.text())).toEqual(['Rescue'])
  })

  it.each([
    ['DARK', '', 'Plan: not yet'],
    ['LIT', '', 'Plan: in hand. waits for you to do it'],
    ['MOSS', 'Rebuild: 504.0 MiB.', 'Plan: proved. Rebuild: 504.0 MiB.'],
    ['BRICK', 'Too small.', 'Plan: stopped. Too small.'],
    ['DASH', '', 'Plan: not needed here'],
  ])('says %s in words', (state, sentence, words) => {
    expect(lampTitle(station(5, state, sentence))).toBe(words)
  })

  it('draws another mark for every state', () => {
    const marks = ['DARK', 'LIT', 'MOSS', 'BRICK', 'DASH'].map((state) => {
      const w = show(LampRow, { props: { stations: [station(1, state)] } })
      return w
        .find('svg')
        .html()
        .replace(/class="[^"]*"/, '')
    })
    expect(new Set(marks).size).toBe(5)
  })
})
