import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, show } from '../test/page'
import PartsRoom from './PartsRoom.vue'

afterEach(() => (document.body.innerHTML = ''))

const row = {
  key: 'ribbon-40',
  name: 'ribbon, 40 to 40',
  ships: true,
  count: 0,
  lies: '',
  host: '40-pin 0.1-inch ATA, holes',
  card: '40-pin 0.1-inch ATA, holes',
  price: '2.50',
  text: '{"key":"ribbon-40","name":"ribbon, 40 to 40"}',
}
const own = { ...row, key: 'own-plug', name: 'a plug of the mill', ships: false, count: 2 }

const joint = {
  type: 'string',
  title: 'Joint',
  oneOf: [
    { const: 'ata40', title: '40-pin' },
    { const: 'cf50', title: 'compact flash' },
  ],
}
const side = { type: 'string', title: 'It has', oneOf: [{ const: 'M', title: 'pins' }] }
const end = { required: ['joint', 'side'], properties: { joint, side } }
const schema = {
  properties: {
    key: { type: 'string', title: 'Key' },
    name: { type: 'string', title: 'Name' },
    host: { type: 'object', title: 'End towards the machine', ...end },
    card: { type: ['object', 'null'], title: 'End towards the card', ...end },
    accepts: {
      type: 'array',
      title: 'Signals',
      uniqueItems: true,
      items: { type: 'integer', oneOf: [{ const: 5000, title: '5 V' }] },
    },
  },
}

async function open(rows: object[]) {
  const asked = answer({
    'GET /api/drawer': rows,
    'PUT /api/drawer/ribbon-40/count': {},
    'DELETE /api/drawer/own-plug': {},
    'POST /api/drawer': {},
    'GET /api/drawer/schema': schema,
  })
  const w = show(PartsRoom)
  await flushPromises()
  return { w, asked }
}

describe('the parts drawer', () => {
  it('has what lies here first, and says how much that is', async () => {
    const { w } = await open([row, own])
    expect(w.text()).toContain('1 of 2 kinds lie here')
    expect(w.findAll('tbody tr')[0].text()).toContain('a plug of the mill')
    expect(w.findAll('tbody tr')[1].text()).toContain('2.50')
  })

  it('keeps a count that makes sense, once', async () => {
    const { w, asked } = await open([row])
    const count = w.get('input[aria-label="How many of ribbon, 40 to 40 lie here"]')
    await count.setValue('-3')
    await count.setValue('4')
    await flushPromises()
    const puts = asked.filter((a) => a.what.startsWith('PUT'))
    expect(puts.map((a) => a.body)).toEqual([{ count: 4 }])
  })

  it('begins a kind of one’s own as a copy with a key of its own', async () => {
    const { w, asked } = await open([row])
    await w
      .findAll('button')
      .find((b) => b.text() === 'own one like it')
      ?.trigger('click')
    await flushPromises()
    const field = (label: string) =>
      [...document.querySelectorAll('label')]
        .find((l) => l.textContent?.startsWith(label))
        ?.querySelector<HTMLInputElement | HTMLSelectElement>('input, select')
    expect(field('Key')?.value).toBe('own-ribbon-40')
    expect(field('Name')?.value).toBe('ribbon, 40 to 40, own')
    const joint = field('Joint') as HTMLSelectElement
    joint.value = 'cf50'
    joint.dispatchEvent(new Event('change'))
    await flushPromises()
    document.querySelector<HTMLInputElement>('fieldset input[type=checkbox]')?.click()
    await flushPromises()
    const one = [...document.querySelectorAll('button')].find(
      (b) => b.textContent?.trim() === 'there is one',
    )
    one?.click()
    await flushPromises()
    document.querySelector('form')?.dispatchEvent(new Event('submit'))
    await flushPromises()
    const sent = asked.find((a) => a.what === 'POST /api/drawer')?.body as { text: string }
    expect(JSON.parse(sent.text)).toMatchObject({
      key: 'own-ribbon-40',
      host: { joint: 'cf50' },
      card: { joint: 'ata40', side: 'M' },
      accepts: [5000],
    })
  })

  it('takes away own kinds only', async () => {
    const { w, asked } = await open([row, own])
    const away = w.findAll('button').filter((b) => b.text() === 'take away')
    expect(away).toHaveLength(1)
    await away[0].trigger('click')
    await flushPromises()
    expect(asked.some((a) => a.what === 'DELETE /api/drawer/own-plug')).toBe(true)
  })

  it('finds a part by its joint', async () => {
    const { w } = await open([row, { ...own, host: 'secure digital, pins' }])
    await w.get('input[placeholder^="name"]').setValue('digital')
    expect(w.findAll('tbody tr')).toHaveLength(1)
    await w.get('input[placeholder^="name"]').setValue('nothing')
    expect(w.text()).toContain('Nothing here has these letters')
  })
})
