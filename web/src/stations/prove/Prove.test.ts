import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../../api/client'
import { answer, job, show, station, sum } from '../../test/page'
import ProveStation from './ProveStation.vue'

afterEach(() => (document.body.innerHTML = ''))

const row = (change: Partial<Schemas['ShownRow']> = {}): Schemas['ShownRow'] => ({
  key: 'free:63',
  what: 'Free on C: MILL',
  predicted: '20 840 448 B',
  because: sum,
  seen: '',
  unseen: false,
  explained: '',
  verdict: 'OPEN',
  sentence: '',
  ...change,
})

async function prove(rows: Schemas['ShownRow'][], state = 'LIT', more: object = {}) {
  const nothing = { kind: 'NOT_MEANT', sentence: 'Nothing starts from it.' }
  const j = job({ builtId: 4 })
  j.stations[8] = station(9, state, state === 'BRICK' ? 'It does not show it.' : '')
  const asked = answer({
    'GET /api/machines': { machines: [], systems: [] },
    'GET /api/jobs/7/prediction': {
      written: true,
      readFrom: 'mill-1',
      boot: [],
      start: nothing,
      findings: [],
    },
    'GET /api/jobs/7/shown': rows,
    'PUT /api/jobs/7/stations/9': j,
    ...more,
  })
  const w = show(ProveStation, { props: { job: j, station: j.stations[8] } })
  await flushPromises()
  return { w, asked }
}

describe('what the machine shows', () => {
  it('is typed beside each figure and kept soon, the difference with a word', async () => {
    vi.useFakeTimers()
    const { w, asked } = await prove([
      row(),
      row({ key: 'volumes', what: 'Volumes', verdict: 'DIFFERS', sentence: '1 less.' }),
    ])
    expect(w.text()).toMatch(/Free on C: MILL.*◆.*20 840 448 B.*○ not read yet/)
    expect(w.text()).toContain('✕ differs')
    await w.find('[aria-label^="Free on C: MILL"]').setValue('20,352 KB')
    await w.find('[aria-label="Volumes: why it differs"]').setValue('from the next restart on')
    await vi.advanceTimersByTimeAsync(700)
    expect(w.text()).toContain('○ typed, not kept yet')
    const kept = asked.find((a) => a.what.startsWith('PUT'))
    expect(kept?.body).toMatchObject({
      done: false,
      record: {
        shown: [
          { key: 'free:63', text: '20,352 KB' },
          { key: 'volumes', explained: 'from the next restart on' },
        ],
      },
    })
    vi.useRealTimers()
  })

  it('leaves a refusal where it is until something is changed', async () => {
    vi.useFakeTimers()
    const refused = { status: 422, detail: 'Free: type what the machine shows.' }
    const { w, asked } = await prove([row()], 'LIT', { 'PUT /api/jobs/7/stations/9': refused })
    await w.find('input[value="pass"]').setValue()
    await w.find('button.next').trigger('click')
    await vi.advanceTimersByTimeAsync(3000)
    expect(w.find('[role=alert]').text()).toContain('Free: type what')
    expect(asked.filter((a) => a.what.startsWith('PUT'))).toHaveLength(1)
    vi.useRealTimers()
  })

  it('takes a proof that failed to the fault board', async () => {
    const { w, asked } = await prove([], 'BRICK', { 'POST /api/jobs/7/failed-proof': {} })
    expect(w.text()).toContain('✕ It does not show it.')
    await w.find('button.next').trigger('click')
    await flushPromises()
    expect(asked.map((a) => a.what)).toContain('POST /api/jobs/7/failed-proof')
  })
})
