import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, show, sum } from '../test/page'
import ChainLine from './ChainLine.vue'

afterEach(() => (document.body.innerHTML = ''))

const none = { key: '', name: '', fits: false, settings: [], last: [] }
const setting = { rule: 'H-6', name: 'J1', value: 'master', text: 'alone on its channel' }

async function line(change: object, settings = false, card = 0) {
  answer({
    'GET /api/jobs/4/chain': (_: number, url: URL) =>
      url.searchParams.get('card') === String(card) ? { ...none, ...change } : none,
  })
  const w = show(ChainLine, { props: { job: 4, settings, card: card || undefined } })
  await flushPromises()
  return w
}

describe('the chain of a job in one line', () => {
  it('offers to choose one where none is taken', async () => {
    const w = await line({})
    expect(w.text()).toContain('choose one')
    expect(w.text()).not.toContain('✓')
  })

  it('shows the one that is taken, and whether it still fits', async () => {
    const taken = { key: 'a b', name: 'adapter', settings: [setting] }
    expect((await line({ ...taken, fits: true })).text()).toContain('✓ adapter')
    expect((await line(taken)).text()).toContain('does not fit any more')
  })

  it('says of the card that is meant where it does not go into the last joint', async () => {
    const taken = { key: 'a b', name: 'adapter', fits: true }
    const told = (verdict: string) => [{ verdict, text: 'it ends with another', because: sum }]
    const care = await line({ ...taken, last: told('CARE') }, false, 9)
    expect(care.text()).toContain('▲it ends with another')
    expect((await line({ ...taken, last: told('FITS') }, false, 9)).text()).not.toContain('ends')
  })

  it('lists what is set by hand only where it is asked to', async () => {
    const taken = { key: 'a b', name: 'adapter', fits: true, settings: [setting] }
    expect((await line(taken)).text()).not.toContain('master')
    expect((await line(taken, true)).text()).toContain('◆ J1: master')
  })
})
