import { flushPromises } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { defineComponent, h, type VNode } from 'vue'
import { api, ask, sentence } from '../api/client'
import { answer, show } from '../test/page'
import BecauseDrawer from '../because/BecauseDrawer.vue'
import Dialog from './Dialog.vue'
import { isTyping, type Key, keysNow, useKeys } from './keys'
import { count, inUnit, useUnit } from './units'

beforeEach(() => setActivePinia(createPinia()))
afterEach(() => {
  document.body.innerHTML = ''
  localStorage.clear()
})

describe('units', () => {
  const g = { cylinders: 1024, heads: 16, sectors: 63 }
  it.each([
    [1_032_192, 'MiB', '504.0 MiB'],
    [1_032_191, 'MiB', '503.9 MiB'],
    [1_032_192, 'MB', '528.4 MB'],
    [1_032_192, 'sectors', '1\u202f032\u202f192 sectors'],
    [63, 'C/H/S', '0/1/1'],
    [0, 'MiB', '0.0 MiB'],
  ] as const)('%i sectors in %s are %s', (sectors, unit, text) => {
    expect(inUnit(sectors, unit, g)).toBe(text)
  })

  it('sets thousands apart by a narrow space that does not break', () => {
    expect(count(1234567)).toBe('1\u202f234\u202f567')
    expect(count(-1000)).toBe('−1\u202f000')
    expect(count(999)).toBe('999')
  })

  it('goes round the four units and remembers the choice', () => {
    const unit = useUnit()
    const seen = [unit.unit]
    for (let i = 0; i < 4; i++) {
      unit.next()
      seen.push(unit.unit)
    }
    expect(seen).toEqual(['MiB', 'MB', 'sectors', 'C/H/S', 'MiB'])
    unit.next()
    setActivePinia(createPinia())
    expect(useUnit().unit).toBe('MB')
  })
})

describe('keys', () => {
  function layer(keys: Key[], inside: () => VNode | VNode[] = () => h('input')) {
    return show(
      defineComponent({
        setup() {
          useKeys(keys)
          return inside
        },
      }),
    )
  }
  const press = (key: string, more = {}) => {
    const e = new KeyboardEvent('keydown', { key, cancelable: true, bubbles: true, ...more })
    window.dispatchEvent(e)
    return e
  }

  it('go to the newest layer that knows them, and away with it', () => {
    const done: string[] = []
    const below = layer([
      { key: 'N', says: 'new', does: () => done.push('below') },
      { key: 'U', says: 'unit', does: () => done.push('unit') },
    ])
    const above = layer([{ key: 'N', says: 'note', does: () => done.push('above') }])
    press('n')
    press('U')
    above.unmount()
    press('N')
    expect(done).toEqual(['above', 'unit', 'below'])
    expect(keysNow()).toHaveLength(2)
    below.unmount()
    press('N')
    expect(done).toHaveLength(3)
  })

  it('behind a dialog do nothing, and Escape closes it wherever the focus is', async () => {
    const done: string[] = []
    const behind = [{ key: 'N', says: 'new', does: () => done.push('behind') }]
    const page = layer(behind, () => [
      h(BecauseDrawer),
      h(Dialog, { title: 'A part', onClose: () => done.push('closed') }, () => h('input')),
    ])
    await flushPromises()
    ;(document.activeElement as HTMLElement | null)?.blur()
    press('n')
    expect(keysNow()).toEqual([])
    expect(done).toEqual([])
    document.body.dispatchEvent(
      new KeyboardEvent('keydown', { key: 'Escape', cancelable: true, bubbles: true }),
    )
    expect(done).toEqual(['closed'])
    page.unmount()
  })

  it('leave the browser its own and letters to whoever types', () => {
    const done: string[] = []
    const w = layer([{ key: 'N', says: 'new', does: () => done.push('n') }])
    press('n', { ctrlKey: true })
    expect(done).toEqual([])
    const input = w.find('input').element
    expect(isTyping(input)).toBe(true)
    expect(isTyping(document.body)).toBe(false)
    input.dispatchEvent(new KeyboardEvent('keydown', { key: 'n', bubbles: true }))
    expect(done).toEqual([])
    expect(press('n').defaultPrevented).toBe(true)
    w.unmount()
  })
})

describe('answers of the server', () => {
  it('give their data, or throw their sentence', async () => {
    answer({
      'GET /api/jobs': { total: 0, waiting: [], rows: [] },
      'POST /api/jobs/7/rescue': { status: 409, detail: 'Work is in hand already.' },
    })
    expect((await ask(api.GET('/api/jobs'))).total).toBe(0)
    const refused = ask(
      api.POST('/api/jobs/{id}/rescue', {
        params: { path: { id: 7 } },
      }),
    )
    await expect(refused).rejects.toThrow('Work is in hand already.')
  })

  it('that never come are said as such', async () => {
    const nobody = Promise.reject(new TypeError('fetch failed'))
    await expect(ask(nobody as never)).rejects.toThrow('The shed does not answer')
    expect(sentence(new Error('why'))).toBe('why')
    expect(sentence('plain')).toBe('plain')
  })
})
