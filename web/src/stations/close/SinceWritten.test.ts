import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, job, show } from '../../test/page'
import SinceWritten from './SinceWritten.vue'

afterEach(() => (document.body.innerHTML = ''))

async function since(found: object) {
  answer({ 'GET /api/jobs/4/since-written': found })
  const w = show(SinceWritten, { props: { job: job({ id: 4, goldenId: 8 }) } })
  await flushPromises()
  return w
}

describe('what a machine did to its card', () => {
  it('is nothing to show where nothing changed', async () => {
    expect((await since({ changes: [], more: 0 })).text()).toBe('')
  })

  it('names each file with a mark, a word and what the guess rests on', async () => {
    const change = { volume: 1, before: 13, after: 27, guess: '14 B were added at its end' }
    const w = await since({
      changes: [
        { ...change, path: 'RUN.LOG', what: 'CHANGED' },
        { ...change, path: 'WIN.SWP', what: 'NEW' },
        { ...change, path: 'WORK.TMP', what: 'GONE' },
      ],
      more: 3,
    })
    expect(w.findAll('li').map((l) => l.text())).toEqual([
      expect.stringMatching(/≠ changed.*RUN\.LOG.*14 B/),
      expect.stringMatching(/\+ new.*WIN\.SWP/),
      expect.stringMatching(/− gone.*WORK\.TMP/),
    ])
    expect(w.text()).toContain('and 3 more')
  })
})
