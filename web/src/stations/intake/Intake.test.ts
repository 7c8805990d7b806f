import { flushPromises } from '@vue/test-utils'
import { expect, it } from 'vitest'
import { answer, job, show, station } from '../../test/page'
import IntakeStation from './IntakeStation.vue'

const step = (text: string, choices: string[]) => ({
  text,
  look: '',
  caution: '',
  reading: '',
  gate: true,
  choices: choices.map((c) => ({ text: c, good: true, then: '' })),
  band: { low: 0, high: 0, unit: '' },
})

it('says what is missing beside its button, and asks a tick for what was found', async () => {
  const inspection = [step('Look at the plug.', []), step('Look at the battery.', ['dry'])]
  const gate = 'Before power: look at point 2.'
  const points = [
    { index: 0, state: 'good', sentence: '' },
    { index: 1, state: 'open', sentence: 'Look at the battery.' },
  ]
  const ticks = [{ index: 1, done: true, reading: '', choice: '' }]
  const lit = { ...station(1, 'LIT'), record: { ...station(1, 'LIT').record, ticks } }
  const here = job({ gate, points } as never)
  const machine = { key: here.profile, inspection, prerequisites: [], systems: [] }
  const asked = answer({
    'GET /api/machines': { machines: [machine], systems: [] },
    'GET /api/media': [],
    'GET /api/jobs/7/pictures': [],
    'PUT /api/jobs/7/stations/1': here,
  })
  const w = show(IntakeStation, { props: { job: here, station: lit } })
  await flushPromises()
  expect(w.text()).toContain('2 Look at the battery.')
  expect(w.text()).toContain('○ Say what is found.')
  expect(w.find('[role=alert]').exists()).toBe(false)
  await w.get('button.next').trigger('click')
  await flushPromises()
  expect(asked.find((a) => a.what.startsWith('PUT'))?.body).toMatchObject({ done: true })
  expect(w.get('[role=alert]').text()).toBe(`▲ It is not done yet. ${gate}`)
})
