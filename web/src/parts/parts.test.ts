import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import type { Picture } from '../api/client'
import SymptomPicker from '../stations/intake/SymptomPicker.vue'
import { answer, show } from '../test/page'
import FastenerMap from './FastenerMap.vue'
import SchemaForm, { type Shape } from './SchemaForm.vue'

afterEach(() => (document.body.innerHTML = ''))

const picture: Picture = {
  id: 4,
  place: 'map',
  name: 'lid',
  width: 400,
  height: 200,
  created: '2026-11-25T00:00:00Z',
  fasteners: [
    { number: 1, x: 100, y: 100, kind: 'M3', length: '6 mm', lies: 'lid' },
    { number: 2, x: 900, y: 100, kind: 'M3', length: '6 mm', lies: 'lid' },
  ],
}

describe('a fastener map', () => {
  it('adds by click in the order of undoing, renumbers what is taken out, and runs backwards', async () => {
    const asked = answer({ 'PUT /api/pictures/4/fasteners': picture })
    const w = show(FastenerMap, { props: { picture } })
    await w.find('.cursor-crosshair').trigger('click', { clientX: 0, clientY: 0 })
    expect(w.findAll('li')).toHaveLength(3)
    await w.find('button[aria-label="Take out 1"]').trigger('click')
    expect(w.findAll('li .figure').map((x) => x.text())).toEqual(['1', '2'])
    await w
      .findAll('button')
      .find((x) => x.text() === 'show putting together')!
      .trigger('click')
    expect(w.findAll('li .figure').map((x) => x.text())).toEqual(['2', '1'])
    await w.find('.next').trigger('click')
    await flushPromises()
    const body = asked[0].body as { fasteners: { number: number; lies: string }[] }
    expect(body.fasteners.map((f) => f.number)).toEqual([1, 2])
    expect(body.fasteners[1].lies).toBe('lid')
  })
})

describe('a form from a schema', () => {
  const shape: Shape = {
    type: 'array',
    items: {
      type: 'object',
      title: 'Slot',
      required: ['name', 'thickness'],
      properties: {
        name: { type: 'string', title: 'Name' },
        thickness: { type: 'integer', title: 'Thickness', minimum: 0 },
        kind: { type: 'string', enum: ['A', 'B'] },
        open: { type: 'boolean' },
      },
    },
  }

  it('adds, changes, moves and takes out', async () => {
    let value: unknown = [{ name: 'one', thickness: 5 }]
    const w = show(SchemaForm, {
      props: { shape, modelValue: value, 'onUpdate:modelValue': (v: unknown) => (value = v) },
    })
    const set = async () => {
      await w.setProps({ modelValue: value } as never)
      await nextTick()
    }
    await w
      .findAll('button')
      .find((b) => b.text() === 'add slot')!
      .trigger('click')
    expect(value).toEqual([
      { name: 'one', thickness: 5 },
      { name: '', thickness: 0 },
    ])
    await set()
    await w.findAll('input[type=number]')[1].setValue('7')
    expect((value as { thickness: number }[])[1].thickness).toBe(7)
    await set()
    await w.findAll('button[aria-label=Up]')[1].trigger('click')
    expect((value as { thickness: number }[])[0].thickness).toBe(7)
    await set()
    await w.findAll('button[aria-label="Take out"]')[0].trigger('click')
    expect(value).toEqual([{ name: 'one', thickness: 5 }])
    await set()
    await w.find('select').setValue('B')
    expect((value as { kind: string }[])[0].kind).toBe('B')
  })
})

describe('symptoms', () => {
  it('show the most urgent first, with what not to do', async () => {
    const symptom = (key: string, urgency: string) => ({
      key,
      sense: 'sound',
      text: key,
      suggests: 's.',
      urgency,
      act: 'a.',
      dont: urgency === 'now' ? 'Do not power-cycle it.' : '',
      kinds: {},
    })
    answer({ 'GET /api/symptoms': [symptom('whine', 'soon'), symptom('clicks', 'now')] })
    let value = ['whine']
    const w = show(SymptomPicker, {
      props: { modelValue: value, 'onUpdate:modelValue': (v: string[]) => (value = v) },
    })
    await flushPromises()
    await w.find('select').setValue('clicks')
    expect(value).toEqual(['whine', 'clicks'])
    await w.setProps({ modelValue: value } as never)
    expect(w.findAll('article strong').map((x) => x.text())[0]).toBe('clicks')
    expect(w.text()).toContain('▲ Do not power-cycle it.')
  })
})
