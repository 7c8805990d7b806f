import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { answer, show, sum } from '../test/page'
import SpeedsSheet from './SpeedsSheet.vue'

afterEach(() => (document.body.innerHTML = ''))

const series = (count: number, middle: number, text: string): Schemas['Series'] => ({
  count,
  low: middle * 0.9,
  middle,
  high: middle * 1.1,
  text,
  spread: '',
})
const row: Schemas['SpeedRow'] = {
  kind: 'READ',
  name: 'sequential read',
  measure: 'RATE',
  system: '4.0',
  tool: 'disk test',
  before: series(3, 4e5, '400 kB/s'),
  after: series(2, 1.3e6, '1.30 MB/s'),
  verdict: 'FASTER',
  change: '+225 %',
  sentence: '',
  because: sum,
}
const timing = { kind: 'READ', text: '400 KB/s', system: '4.0', tool: 'disk test', at: '' }
const view = {
  timings: [
    { ...timing, id: 1, after: false },
    { ...timing, id: 2, after: true, text: '1.3 MB/s' },
  ],
  rows: [row],
  limit: '3.30 MB/s, the bus',
  limitBytes: 3.3e6,
  kinds: [{ kind: 'READ', words: 'sequential read', example: '812 KB/s' }],
}

async function sheet(after: boolean, more: object = {}) {
  const asked = answer({ 'GET /api/jobs/7/timings': view, ...more })
  const w = show(SpeedsSheet, { props: { job: 7, after } })
  await flushPromises()
  return { w, asked }
}

describe('speeds before and after', () => {
  it('says what changed, in figures and a word, with the bus beside it', async () => {
    const { w } = await sheet(true)
    expect(w.text()).toMatch(/sequential read.*✓.*\+225 % faster/)
    expect(w.text()).toMatch(/before.*400 kB\/s.*×3.*after.*1\.30 MB\/s.*×2/)
    expect(w.text()).toContain('at most 3.30 MB/s, the bus')
    expect(w.html()).toContain('border-dashed')
  })

  it('keeps a figure with the system and tool of the last one', async () => {
    const { w, asked } = await sheet(false, { 'POST /api/jobs/7/timings': view })
    await w.find('button').trigger('click')
    await w.find('input[placeholder="812 KB/s"]').setValue('410 KB/s')
    await w.find('form').trigger('submit')
    await flushPromises()
    expect(asked.find((a) => a.what.startsWith('POST'))?.body).toEqual({
      kind: 'READ',
      text: '410 KB/s',
      system: '4.0',
      tool: 'disk test',
      after: false,
    })
  })

  it('takes one out and offers the way back', async () => {
    const { w, asked } = await sheet(false, { 'DELETE /api/jobs/7/timings/1': view })
    await w.find('[aria-label="take out 400 KB/s"]').trigger('click')
    await flushPromises()
    expect(asked.map((a) => a.what)).toContain('DELETE /api/jobs/7/timings/1')
  })
})
