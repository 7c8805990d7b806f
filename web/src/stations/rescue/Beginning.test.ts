import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { answer, job, show, station } from '../../test/page'
import BuildStation from '../build/BuildStation.vue'
import CloseStation from '../close/CloseStation.vue'
import { dropped, localTime, picked } from '../../parts/dropped'
import RescueStation from './RescueStation.vue'

afterEach(() => (document.body.innerHTML = ''))

function button(w: ReturnType<typeof show>, text: string) {
  return w.findAll('button').find((b) => b.text() === text)
}

describe('a job without an old drive', () => {
  it('says so by one button, with the version that the person saw', async () => {
    const asked = answer({ 'PUT /api/jobs/7/beginning': job(), 'GET /api/images': [] })
    const w = show(RescueStation, { props: { job: job(), station: station(3, 'LIT') } })
    await button(w, 'From files of a desktop')?.trigger('click')
    await flushPromises()
    const sent = asked.find((a) => a.what.startsWith('PUT'))
    expect(sent?.body).toEqual({ version: 3, startsFrom: 'FILES', imageId: 0 })
  })

  it('brings only what is not there yet, and shows what came', async () => {
    const rows = [{ path: 'here.txt', bytes: 4, time: localTime(1000) }]
    const sent: string[] = []
    answer({
      'GET /api/images': [],
      'GET /api/jobs/7/files': { count: 1, bytes: 4, sum: '1 file, 4 B', rows },
      'PUT /api/jobs/7/files': () => {
        sent.push('one')
        return { path: 'x', bytes: 1, time: '' }
      },
    })
    const w = show(RescueStation, {
      props: { job: job({ startsFrom: 'FILES' }), station: station(3, 'DASH', 'files') },
    })
    await flushPromises()
    expect(w.text()).toContain('1 file, 4 B')
    const input = w.find('input[aria-label="Choose files"]')
    const files = [
      new File(['same'], 'here.txt', { lastModified: 1000 }),
      new File(['1'], 'fresh.txt', { lastModified: 5000 }),
    ]
    Object.defineProperty(input.element, 'files', { value: files })
    await input.trigger('change')
    await vi.waitFor(() => expect(sent).toHaveLength(1))
    await flushPromises()
    expect(sent).toHaveLength(1)
  })

  it('walks dropped folders to their end and keeps their paths', async () => {
    const file = (name: string) => ({
      isFile: true,
      name,
      file: (done: (f: File) => void) => done(new File(['x'], name, { lastModified: 0 })),
    })
    const folder = (name: string, inside: unknown[]) => ({
      isFile: false,
      name,
      createReader: () => {
        const left = [...inside]
        return { readEntries: (done: (e: unknown[]) => void) => done(left.splice(0, 1)) }
      },
    })
    const tree = folder('mill', [file('a.txt'), folder('deep', [file('b.txt'), file('c.txt')])])
    const data = { items: [{ webkitGetAsEntry: () => tree }, { webkitGetAsEntry: () => null }] }
    const all = await dropped(data as never)
    expect(all.map((f) => f.path)).toEqual(['mill/a.txt', 'mill/deep/b.txt', 'mill/deep/c.txt'])
    const flat = picked([new File(['x'], 'one.txt', { lastModified: 0 })])
    expect(flat[0].path).toBe('one.txt')
    expect(flat[0].time).toMatch(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d$/)
  })

  it('takes an image of the shelf as it is in place of one that is built', async () => {
    const asked = answer({
      'GET /api/jobs/7/proof': { sentence: '', boot: [], findings: [], differing: [] },
      'GET /api/images': [{ id: 9, name: 'starter', size: '30 MiB' }],
      'PUT /api/jobs/7/as-it-is': job(),
    })
    const w = show(BuildStation, { props: { job: job(), station: station(6, 'LIT') } })
    await flushPromises()
    await w.find('select[aria-label="Image of the shelf"]').setValue(9)
    await button(w, 'Take it')?.trigger('click')
    await flushPromises()
    expect(asked.find((a) => a.what.startsWith('PUT'))?.body).toEqual({ version: 3, imageId: 9 })
  })
})

describe('closing', () => {
  it('reads the finished card back', async () => {
    const asked = answer({
      'GET /api/media': [{ id: 5, name: 'mill-3', kind: 'card', card: true }],
      'GET /api/images/4': { id: 4, name: 'built', size: '1 MiB', sha256: 'ab' },
      'POST /api/jobs/7/read-back': { id: 1 },
    })
    const w = show(CloseStation, {
      props: { job: job({ builtId: 4, cardId: 5 }), station: station(10, 'LIT') },
    })
    await flushPromises()
    expect(w.text()).toContain('was not read back yet')
    await button(w, 'Read it back')?.trigger('click')
    await flushPromises()
    expect(asked.find((a) => a.what.startsWith('POST'))?.body).toEqual({ mediumId: 5 })
  })

  it('writes another card from the golden copy', async () => {
    answer({
      'GET /api/media': [{ id: 5, name: 'mill-3', kind: 'card', card: true }],
      'GET /api/images': [{ id: 9, name: 'finished', size: '1 MiB', sectors: 2048 }],
      'GET /api/images/9': { id: 9, name: 'finished', size: '1 MiB', sha256: 'ab' },
    })
    const at = { station: station(10, 'MOSS') }
    const w = show(CloseStation, { props: { ...at, job: job({ builtId: 4, goldenId: 9 }) } })
    await flushPromises()
    await button(w, 'Write another card from it')?.trigger('click')
    await flushPromises()
    expect(document.body.textContent).toContain('Put an image on a card as it is')
    const image = document.body.querySelector<HTMLSelectElement>('[role=dialog] select')!
    expect(image.value).toBe('9')
  })

  it('offers a plain backup only where nothing was built', async () => {
    answer({ 'GET /api/media': [] })
    const at = { station: station(10, 'LIT') }
    const built = show(CloseStation, { props: { ...at, job: job({ rescuedId: 3, builtId: 4 }) } })
    expect(built.text()).not.toContain('Only a backup')
    const plain = show(CloseStation, { props: { ...at, job: job({ rescuedId: 3 }) } })
    expect(plain.text()).toContain('Only a backup was wanted')
  })
})
