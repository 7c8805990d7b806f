import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { answer, show } from '../test/page'
import SpareDialog from './SpareDialog.vue'

afterEach(() => (document.body.innerHTML = ''))

const MIB = 1 << 20
function image(id: number, away: boolean): Schemas['SpareView'] {
  const name = `image ${id}`
  return { id, name, origin: 'a drive', sha256: 'ab', away, bytes: id * MIB, size: `${id}.0 MiB` }
}
const button = () =>
  [...document.body.querySelectorAll('button')].find((b) =>
    b.textContent?.includes('Give them back'),
  )
async function type(text: string): Promise<void> {
  const field = document.body.querySelector<HTMLInputElement>('input[inputmode=numeric]')!
  field.value = text
  field.dispatchEvent(new Event('input'))
  await flushPromises()
}

describe('getting room back', () => {
  it('goes only with the number of those that go, and says what stayed', async () => {
    const give = 'POST /api/shelf/spare/give-back'
    const asked = answer({
      'GET /api/shelf/spare': [image(1, true), image(2, true), image(4, true), image(9, false)],
      [give]: { gone: 1, sentence: '1 image is gone for good.', stayed: ['“image 4” is needed.'] },
    })
    show(SpareDialog)
    await flushPromises()
    expect(document.body.textContent).toContain('7.0 MiB')
    expect(document.body.textContent).toContain('In sight, and nothing needs it')
    await type('2')
    expect(button()!.disabled).toBe(true)
    const second = document.body.querySelectorAll<HTMLInputElement>('input[type=checkbox]')[1]
    second.click()
    await flushPromises()
    expect(document.body.textContent).toContain('5.0 MiB')
    expect(button()!.disabled).toBe(false)
    button()!.click()
    await flushPromises()
    expect(asked.find((a) => a.what === give)?.body).toEqual({ images: [1, 4], confirm: '2' })
    expect(document.body.textContent).toContain('✓ 1 image is gone for good.')
    expect(document.body.textContent).toContain('✕ “image 4” is needed.')
  })

  it('says so where there is nothing to give back', async () => {
    answer({ 'GET /api/shelf/spare': [] })
    show(SpareDialog)
    await flushPromises()
    expect(document.body.textContent).toContain('○ None.')
    expect(button()).toBeUndefined()
  })
})
