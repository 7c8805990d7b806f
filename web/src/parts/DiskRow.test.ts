import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, errand, show } from '../test/page'
import DiskRow from './DiskRow.vue'

afterEach(() => (document.body.innerHTML = ''))

async function open() {
  const asked = answer({
    'GET /api/images/9/library': {
      disk: '200 KiB',
      places: [
        { number: 0, title: 'Stars', state: 'LOCKED' },
        { number: 1, title: 'Lace', state: 'OPEN' },
        { number: 2, title: '', state: 'BLANK' },
      ],
    },
    'GET /api/images': [],
    'POST /api/images/9/library': errand({ state: 'DONE', made: 12 }),
  })
  const w = show(DiskRow, { props: { image: 9, within: '1/QUILTS.LIB' } })
  await flushPromises()
  await flushPromises()
  return { asked, w }
}

type Page = Awaited<ReturnType<typeof open>>['w']
const titles = (w: Page) =>
  w.findAll('tbody tr').map((r) =>
    r
      .findAll('td')
      .slice(0, 3)
      .map((d) => d.text())
      .join(' '),
  )
const press = (w: Page, words: string) =>
  w
    .findAll('button')
    .find((b) => b.text() === words)!
    .trigger('click')

describe('a row of small disks', () => {
  it('shows each place as it will be, and takes changes back one by one', async () => {
    const { w } = await open()
    expect(w.text()).toContain('2 disks of 200 KiB in 3 places')
    expect(titles(w)).toEqual(['0 Stars ■ locked', '1 Lace □ open', '2  · no disk'])
    await w.findAll('tbody tr')[1].trigger('keydown', { key: 'ArrowUp', altKey: true })
    await press(w, 'unlock')
    expect(titles(w)).toEqual(['0 Lace □ open', '1 Stars □ open', '2  · no disk'])
    expect(w.text()).toContain('Make a copy with 2 changes')
    await press(w, 'Undo the last')
    expect(titles(w)).toEqual(['0 Lace □ open', '1 Stars ■ locked', '2  · no disk'])
  })

  it('offers no replacing and no taking out of a locked disk', async () => {
    const { w } = await open()
    const locked = w.findAll('tbody tr')[0].text()
    expect(locked).not.toContain('replace')
    expect(locked).not.toContain('take out')
    expect(w.findAll('tbody tr')[1].text()).toContain('take out')
  })

  it('makes a copy with all changes in their order and names the new image', async () => {
    const { asked, w } = await open()
    await press(w, 'lock')
    await w.findAll('tbody tr')[0].findAll('button.key')[1].trigger('click')
    await w.find('button.next').trigger('click')
    await flushPromises()
    await flushPromises()
    const sent = asked.find((a) => a.what.startsWith('POST'))
    expect(sent?.body).toEqual({
      changes: [
        { verb: 'LOCK', number: 1, to: 0, title: '', image: 0 },
        { verb: 'MOVE', number: 0, to: 1, title: '', image: 0 },
      ],
    })
    expect(w.emitted('made')).toEqual([[12]])
  })
})
