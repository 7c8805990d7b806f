import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import type { Job } from '../../api/client'
import { answer, job, show, step } from '../../test/page'
import FitStation from './FitStation.vue'

afterEach(() => (document.body.innerHTML = ''))

const row = (index: number, text: string, head = '') => ({ index, head, step: step(text) })
const both = ['desktop', 'tower']
const unsaid: Job['fitting'] = { variants: both, chosen: '', rows: [row(0, 'Set the jumper.')] }
const tower: Job['fitting'] = {
  variants: both,
  chosen: 'tower',
  rows: [
    row(1001, 'Panel off.', 'Open it'),
    row(0, 'Set the jumper.', 'Fit the card'),
    row(2001, 'Panel on.', 'Close it, the same way back'),
  ],
}

async function fit(fitting: Job['fitting']) {
  const j = job({ fitting })
  const asked = answer({
    'GET /api/jobs/7/pictures': [],
    'PUT /api/jobs/7/stations/8': j,
  })
  const w = show(FitStation, { props: { job: j, station: j.stations[7] } })
  await flushPromises()
  return { w, puts: () => asked.filter((a) => a.what.startsWith('PUT')).map((a) => a.body) }
}

async function toBench(w: Awaited<ReturnType<typeof fit>>['w']) {
  await w
    .findAll('button')
    .find((b) => b.text().startsWith('Bench card'))
    ?.trigger('click')
  await flushPromises()
}

describe('fitting the card', () => {
  it('goes to the bench with no half of a list', async () => {
    const { w } = await fit(unsaid)
    await toBench(w)
    expect(w.get('fieldset [role=alert]').text()).toContain('Say first which case is before you.')
    expect(document.body.textContent).not.toContain('1 of 1')
    w.unmount()
  })

  it('asks which case is before one, and keeps the answer at once', async () => {
    const { w, puts } = await fit(unsaid)
    expect(w.text()).toContain('Which case is before you?')
    await w.get('input[value=tower]').setValue(true)
    await flushPromises()
    expect(puts()).toMatchObject([{ done: false, record: { choice: 'tower' } }])
  })

  it('opens, fits and closes, each step kept under its own number', async () => {
    const { w, puts } = await fit(tower)
    expect(w.findAll('h3').map((h) => h.text())).toEqual([
      'Open it',
      'Fit the card',
      'Close it, the same way back',
    ])
    for (const box of w.findAll('input[type=checkbox]')) await box.setValue(true)
    const done = w.findAll('button').find((b) => b.text() === 'It is fitted')
    await done?.trigger('click')
    await flushPromises()
    const sent = puts()[0] as { done: boolean; record: { ticks: { index: number }[] } }
    expect(sent.done).toBe(true)
    expect(sent.record.ticks.map((t) => t.index)).toEqual([1001, 0, 2001])
  })

  it('names the part of the list on the bench card', async () => {
    const { w } = await fit(tower)
    await toBench(w)
    expect(document.body.textContent).toContain('Open it · 1 of 3')
    window.dispatchEvent(new KeyboardEvent('keydown', { key: ' ' }))
    await flushPromises()
    expect(document.body.textContent).toContain('Fit the card · 2 of 3')
    w.unmount()
  })
})
