import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { answer, job, show } from '../../test/page'
import RecipeDialog from './RecipeDialog.vue'

beforeEach(() => vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] }))
afterEach(() => {
  vi.useRealTimers()
  document.body.innerHTML = ''
})

async function settle(): Promise<void> {
  await flushPromises()
  await vi.advanceTimersByTimeAsync(400)
  await flushPromises()
}

async function open(look: { trouble: string; changes: unknown[] }) {
  const asked = answer({
    'GET /api/jobs/7/recipe': { form: 'lantern shed recipe, form 3' },
    'POST /api/jobs/7/recipe/look': look,
    'PUT /api/jobs/7/recipe': look,
  })
  const w = show(RecipeDialog, { props: { job: job() } })
  await settle()
  await settle()
  return { w, asked, take: document.body.querySelector<HTMLButtonElement>('button.next')! }
}

describe('the recipe as text', () => {
  it('names what is wrong by its place and is not taken', async () => {
    const { take } = await open({ trouble: 'The recipe is refused at /bootCode', changes: [] })
    expect(document.body.textContent).toContain('refused at /bootCode')
    expect(take.disabled).toBe(true)
  })

  it('is held against the settled one and taken with the version that was seen', async () => {
    const change = { place: '/volumes/0/label', was: 'MILL', is: 'LOOMS' }
    const { asked, take } = await open({ trouble: '', changes: [change] })
    expect(document.body.textContent).toContain('/volumes/0/label')
    expect(document.body.textContent).toContain('LOOMS')
    take.click()
    await settle()
    const sent = asked.find((a) => a.what.startsWith('PUT'))?.body
    expect(sent).toMatchObject({ version: job().version })
  })

  it('is the same as long as nothing is changed', async () => {
    const { take } = await open({ trouble: '', changes: [] })
    expect(document.body.textContent).toContain('The same.')
    expect(take.disabled).toBe(true)
  })
})
