import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import TakeJobIn from '../../rooms/TakeJobIn.vue'
import { answer, errand, show } from '../../test/page'
import type { Job } from '../../api/client'
import ArchiveOut from './ArchiveOut.vue'

afterEach(() => (document.body.innerHTML = ''))

const parts = {
  pictures: 1,
  files: 2,
  images: [
    { id: 4, name: 'a', what: 'as rescued', size: '40.6 MiB', here: true },
    { id: 6, name: 'b', what: 'as built', size: '61 MiB', here: true },
    { id: 8, name: 'c', what: 'as a card holds it', size: '61 MiB', here: false },
  ],
}

describe('a whole job as one file', () => {
  it('goes out with the images that somebody chooses', async () => {
    answer({ 'GET /api/jobs/3/archive/parts': parts })
    const page = show(ArchiveOut, { props: { job: { id: 3, version: 1 } as Job } })
    await flushPromises()
    expect(page.text()).toContain('1 picture, 2 files that came')
    expect(page.text()).toContain('✕ its room was got back')
    const link = () => page.find('a').attributes('href')
    expect(link()).toBe('/api/jobs/3/archive?images=4,6')
    await page.findAll('input')[0].setValue(false)
    expect(link()).toBe('/api/jobs/3/archive?images=6')
    await page.findAll('input')[0].setValue(true)
    expect(link()).toBe('/api/jobs/3/archive?images=4,6')
    expect(page.findAll('input')[2].attributes('disabled')).toBeDefined()
  })

  async function chosen(end: Parameters<typeof errand>[0]) {
    const asked = answer({ 'POST /api/jobs/archive': errand(end) })
    const page = show(TakeJobIn, {})
    await flushPromises()
    const input = document.body.querySelector<HTMLInputElement>('input[type=file]')!
    Object.defineProperty(input, 'files', { value: [new File(['PK'], 'job-3.zip')] })
    input.dispatchEvent(new Event('change'))
    await flushPromises()
    return { asked, page }
  }

  it('comes in and is opened', async () => {
    const { asked, page } = await chosen({ state: 'DONE', made: 12 })
    expect(asked.map((a) => a.what)).toContain('POST /api/jobs/archive')
    await vi.waitFor(() => expect(page.emitted('close')).toHaveLength(1))
  })

  it('is refused in a sentence, and another one can be chosen', async () => {
    await chosen({ state: 'FAILED', sentence: 'pictures/4.jpg is not what its digest says.' })
    expect(document.body.textContent).toContain('✕ pictures/4.jpg is not what its digest says.')
    expect(document.body.textContent).toContain('Choose the archive')
  })
})
