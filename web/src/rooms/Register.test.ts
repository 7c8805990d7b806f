import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, show } from '../test/page'
import RegisterRoom from './RegisterRoom.vue'

afterEach(() => (document.body.innerHTML = ''))

const row = {
  card: 4,
  name: 'mill-3',
  serial: 'SMCF-0003',
  size: '61.2 MiB',
  image: 7,
  imageName: 'Gate laptop, built',
  sha256: 'ab'.repeat(32),
  job: 2,
  machine: 'Gate laptop',
  system: 'an early system',
  since: '2026-11-02T10:00:00Z',
  lies: '',
}

async function open(rows: object[]) {
  const asked = answer({ 'GET /api/register': rows, 'PUT /api/register/4': row })
  const w = show(RegisterRoom)
  await flushPromises()
  return { w, asked }
}

describe('the register of cards', () => {
  it('says what is on each card, of which machine, and since when', async () => {
    const { w } = await open([row, { ...row, card: 5, name: 'mill-9', image: 0, job: 0 }])
    expect(w.text()).toContain('1 of 2 hold a known image')
    const rows = w.findAll('tbody tr')
    expect(rows[0].text()).toContain('Gate laptop, built')
    expect(rows[0].text()).toContain('2026-11-02')
    expect(rows[0].text()).toContain('abababababababab…')
    expect(rows[1].text()).toContain('nothing that is known')
  })

  it('finds a card by any of its words', async () => {
    const { w } = await open([row, { ...row, card: 5, name: 'mill-9', machine: 'Loom' }])
    await w.get('input[placeholder^="card"]').setValue('loom')
    expect(w.findAll('tbody tr')).toHaveLength(1)
    await w.get('input[placeholder^="card"]').setValue('nowhere')
    expect(w.text()).toContain('Nothing here has these letters')
  })

  it('keeps where a card lies, once and only where it changed', async () => {
    const { w, asked } = await open([row])
    const place = w.get('input[aria-label="Where mill-3 lies"]')
    await place.trigger('blur')
    await place.setValue('box 3')
    await place.trigger('keydown', { key: 'Enter' })
    await flushPromises()
    const puts = asked.filter((a) => a.what.startsWith('PUT'))
    expect(puts.map((a) => a.body)).toEqual([{ lies: 'box 3' }])
  })

  it('says what to do where there is none', async () => {
    const { w } = await open([])
    expect(w.text()).toContain('There are no cards yet')
  })
})
