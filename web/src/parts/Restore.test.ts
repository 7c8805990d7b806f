import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, show, sum } from '../test/page'
import RestoreDialog from './RestoreDialog.vue'

afterEach(() => (document.body.innerHTML = ''))

const card = { id: 5, name: 'mill-3', kind: 'card', serial: 'ABCD', size: '8 GB', sizeBecause: sum }
const image = { id: 9, name: 'starter', size: '30 MiB' }

function open(refusals: string[]) {
  const asked = answer({
    'GET /api/images': [image],
    'GET /api/media': [card],
    'GET /api/images/9/restore-check': {
      mediumId: 5,
      description: 'mill-3, serial ABCD',
      confirmHint: 'the last four of its serial',
      refusals,
      because: sum,
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
    expect(sent?.body).toEqual({ mediumId: 5, confirm: 'ABCD' })
    expect(page.textContent).toContain('25.0 %')
  })

  it('is refused with its reason and no way to write', async () => {
    open(['The image has 10 sectors, mill-3 has 9: 1 sector too few.'])
    await flushPromises()
    await flushPromises()
    expect(document.body.textContent).toContain('1 sector too few')
    expect(document.body.querySelector('button.danger')).toBeNull()
  })
})
