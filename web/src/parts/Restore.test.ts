import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, show, sum } from '../test/page'
import type { Medium } from '../api/client'
import RestoreDialog from './RestoreDialog.vue'
import TrueSizeDialog from './TrueSizeDialog.vue'

afterEach(() => (document.body.innerHTML = ''))

const card = {
  id: 5,
  name: 'mill-3',
  kind: 'card',
  card: true,
  standIn: true,
  serial: 'ABCD',
  size: '8 GB',
  sizeBecause: sum,
}
const image = { id: 9, name: 'starter', size: '30 MiB' }

function open(refusals: string[], holds = '') {
  const asked = answer({
    'GET /api/images': [image],
    'GET /api/media': [card],
    'GET /api/images/9/restore-check': {
      mediumId: 5,
      description: 'mill-3, serial ABCD',
      confirmHint: 'the last four of its serial',
      letters: 4,
      refusals,
      because: sum,
      holds,
    },
    'POST /api/images/9/restore': { id: 77 },
    'GET /api/runs/77': { id: 77, state: 'RUNNING', done: 1, total: 4, phase: 'writing' },
  })
  return { asked, w: show(RestoreDialog, { props: { image: 9, card: 5 } }) }
}

describe('an image on a card as it is', () => {
  it('is confirmed by the serial before a byte is written', async () => {
    const { asked } = open([])
    await flushPromises()
    await flushPromises()
    const page = document.body
    const input = page.querySelector<HTMLInputElement>(
      'input[aria-label="Last four of the serial"]',
    )!
    const write = page.querySelector<HTMLButtonElement>('button.danger')!
    expect(write.disabled).toBe(true)
    input.value = 'ABCD'
    input.dispatchEvent(new Event('input'))
    await flushPromises()
    expect(write.disabled).toBe(false)
    page.querySelector('form')!.dispatchEvent(new Event('submit'))
    await flushPromises()
    await flushPromises()
    const sent = asked.find((a) => a.what.startsWith('POST'))
    expect(sent?.body).toEqual({ mediumId: 5, confirm: 'ABCD', onlyChanges: false })
    expect(page.textContent).toContain('25.0 %')
  })

  it('is written by its changes only where the card holds an image, unless somebody says no', async () => {
    const { asked } = open([], 'the week before')
    await flushPromises()
    await flushPromises()
    const page = document.body
    expect(page.textContent).toContain('what differs from “the week before”')
    expect(page.querySelector<HTMLInputElement>('input[type=checkbox]')!.checked).toBe(true)
    page.querySelector('form')!.dispatchEvent(new Event('submit'))
    await flushPromises()
    const sent = asked.find((a) => a.what.startsWith('POST'))
    expect(sent?.body).toMatchObject({ onlyChanges: true })
  })

  it('is refused with its reason and no way to write', async () => {
    open(['The image has 10 sectors, mill-3 has 9: 1 sector too few.'])
    await flushPromises()
    await flushPromises()
    expect(document.body.textContent).toContain('1 sector too few')
    expect(document.body.querySelector('button.danger')).toBeNull()
  })
})

describe('the true size of a card', () => {
  const look = { kind: 'WRAPS', sentence: 'It has 9 sectors, not 10.', because: sum }

  function size(state: string) {
    const asked = answer({
      'GET /api/media': [{ ...card, trueSize: look }],
      'GET /api/media/5/true-size': {
        mediumId: 5,
        description: 'mill-3, 10 sectors, serial ABCD',
        confirmHint: 'the last four of its serial',
        letters: 4,
        refusals: [],
        because: sum,
        holds: '',
      },
      'POST /api/media/5/true-size': { id: 78 },
      'GET /api/runs/78': { id: 78, state, done: 4, total: 4, phase: 'reading back' },
    })
    return { asked, w: show(TrueSizeDialog, { props: { card: card as unknown as Medium } }) }
  }

  it('is looked at after the serial, and said in one sentence', async () => {
    const { asked } = size('DONE')
    await flushPromises()
    const page = document.body
    expect(page.textContent).toContain('will be overwritten')
    const input = page.querySelector<HTMLInputElement>(
      'input[aria-label="Last four of the serial"]',
    )!
    input.value = 'ABCD'
    input.dispatchEvent(new Event('input'))
    page.querySelectorAll<HTMLInputElement>('input[type=radio]')[1].click()
    await flushPromises()
    page.querySelector('form')!.dispatchEvent(new Event('submit'))
    for (let i = 0; i < 4; i++) await flushPromises()
    const sent = asked.find((a) => a.what.startsWith('POST'))
    expect(sent?.body).toEqual({ confirm: 'ABCD', full: true })
    expect(page.textContent).toContain('It has 9 sectors, not 10.')
  })
})
