import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { answerWith } from '../test/setup'
import DemoLine from './DemoLine.vue'

async function line(state: object): Promise<string> {
  answerWith(() =>
    Promise.resolve(
      new Response(JSON.stringify(state), { headers: { 'Content-Type': 'application/json' } }),
    ),
  )
  const w = mount(DemoLine, { global: { plugins: [VueQueryPlugin] } })
  await flushPromises()
  await flushPromises()
  return w.text()
}

describe('the line of the demonstration', () => {
  it('says how far it is while it is laid out', async () => {
    const text = await line({ running: true, done: 3, of: 21, what: 'a loom', failed: '' })
    expect(text).toContain('3 of 21, now a loom')
  })

  it('says why it stopped, and is silent where nothing is to be said', async () => {
    const stopped = { running: false, done: 3, of: 21, what: 'a loom', failed: 'The disk is full.' }
    expect(await line(stopped)).toContain('stopped at a loom: The disk is full.')
    expect(await line({ ...stopped, done: 21, failed: '' })).toBe('')
  })
})
