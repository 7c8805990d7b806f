import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, job, show } from '../test/page'
import ChainRoom from './ChainRoom.vue'

afterEach(() => {
  document.body.innerHTML = ''
  localStorage.clear()
})

const nothing = { chains: [], more: 0, missing: 'Nothing joins them.' }

/** The room of a job whose planned card is made for a joint; each question for chains is kept. */
async function room(joint: string) {
  const asked: string[] = []
  const ways = (_: number, url: URL) => {
    asked.push(url.searchParams.get('card') ?? '')
    return nothing
  }
  answer({
    'GET /api/jobs/4': job({ id: 4 }),
    'GET /api/jobs/4/plan': { choice: { cardId: 9 } },
    'GET /api/media': [
      { id: 8, name: 'mill-8', joint: 'cf50', card: true },
      { id: 9, name: 'mill-9', joint, card: true },
    ],
    'GET /api/jobs/4/chains': ways,
    'GET /api/jobs/4/chain': { key: '', name: '', fits: false, settings: [], last: [] },
    'GET /api/drawer/cards': [
      { key: 'cf50', name: 'compact flash' },
      { key: 'sd', name: 'secure digital' },
    ],
  })
  const w = show(ChainRoom, { params: { id: '4' } })
  await flushPromises()
  await flushPromises()
  return { w, asked }
}

describe('the ways to a card', () => {
  it('are those to the card of the plan, until somebody wants others', async () => {
    const { w, asked } = await room('sd')
    const kind = w.find<HTMLSelectElement>('select[aria-label="Which kind of card"]')
    expect(kind.element.value).toBe('sd')
    expect(asked.at(-1)).toBe('sd')
    expect(w.text()).toContain('The card of the plan, mill-9, is made for these.')
    await kind.setValue('')
    await flushPromises()
    expect(asked.at(-1)).toBe('')
    expect(kind.element.value).toBe('')
    w.unmount()
  })

  it('are those to the card of a layout that is not settled yet', async () => {
    localStorage.setItem('shed plan 4', JSON.stringify({ cardId: 8 }))
    const { w, asked } = await room('sd')
    expect(asked.at(-1)).toBe('cf50')
    expect(w.text()).toContain('The card of the plan, mill-8, is made for these.')
    w.unmount()
  })

  it('are to any card where nobody said what the planned one is made for', async () => {
    const { w, asked } = await room('')
    expect(asked.at(-1)).toBe('')
    expect(w.text()).toContain('Nothing joins them.')
    w.unmount()
  })
})
