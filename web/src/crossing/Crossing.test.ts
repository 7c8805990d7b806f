import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import CrossingRoom from '../rooms/CrossingRoom.vue'
import { useUndo } from '../shed/undo'
import { answer, errand, show, sum } from '../test/page'
import CrossingLines from './CrossingLines.vue'
import type { Crossing, Row } from './useCrossing'

afterEach(() => (document.body.innerHTML = ''))

function row(change: Partial<Row>): Row {
  return {
    from: 'Heron.pat',
    to: 'HERON.PAT',
    bytes: 3000,
    size: '2.9 KiB',
    sha256: 'ab',
    was: 'ab',
    units: 3,
    state: 'OVER',
    says: '',
    twin: '',
    disk: 0,
    kind: '',
    about: '',
    fault: '',
    starts: '',
    how: '',
    ...change,
  }
}
const NO_MENU: Crossing['laid']['menu'] = {
  says: '',
  lines: 0,
  startFiles: [],
  starts: [],
  numbered: {},
  list: '',
  listFault: '',
}
const rows = [
  row({}),
  row({ from: 'con.pat', to: 'CON_.PAT', state: 'LOOK', says: 'CON is a device' }),
  row({ from: 'big.bin', to: '', state: 'STAYS', says: '12 clusters too many', disk: -1 }),
]
const disk = {
  name: 'PATTERNS',
  files: 2,
  size: 737_280,
  there: 102_400,
  comes: 204_800,
  free: 430_080,
  rootLeft: 40,
  because: sum,
  image: 0,
}
function crossing(change: Partial<Crossing> = {}): Crossing {
  return {
    id: 5,
    version: 2,
    target: 'PATTERNS of the copy',
    image: 9,
    volume: 1,
    disk: '',
    choices: {
      rule: '8.3',
      shelving: 'AS_IT_IS',
      most: 40,
      lines: 20,
      together: false,
      names: {},
      left: [],
      changes: [],
      text: { ends: 'KEEP', from: '', to: '', tabs: 0, mark: false },
      machine: '',
      further: [],
    },
    others: [],
    laid: {
      seal: 'ab',
      rules: [
        { key: '8.3', says: 'eight capitals', folders: true },
        { key: 'long', says: '255 letters', folders: true },
      ],
      pages: ['UTF-8', '850'],
      unit: 'cluster',
      rows,
      there: [
        { path: 'OLD', folder: true, size: '', marks: '' },
        { path: 'OLD/A.PAT', folder: false, size: '1 KiB', marks: 'a' },
      ],
      thereCount: 2,
      over: 2,
      look: 1,
      stays: 1,
      disks: [disk],
      least: 1,
      leastBecause: sum,
      folders: [{ disk: 0, name: '', entries: 45, pages: 3 }],
      menus: [{ key: 'cart', name: 'Machine with a cartridge' }],
      menu: NO_MENU,
    },
    refusal: '',
    carried: false,
    tried: [],
    ...change,
  }
}

async function room(view: Crossing, more: Record<string, unknown> = {}) {
  const asked = answer({
    'GET /api/crossings/5': view,
    'PUT /api/crossings/5': view,
    'GET /api/jobs/from/9': [],
    'GET /api/images/disks': [
      { key: '720K', title: '720K, FAT12', sectors: 1440, library: false },
      { key: '200-two', title: '200 KiB', sectors: 400, library: true },
    ],
    ...more,
  })
  const page = show(CrossingRoom, { params: { id: '5' } })
  await flushPromises()
  return { page, asked }
}
interface Put {
  version: number
  choices: Crossing['choices']
}
const put = (asked: { what: string; body: unknown }[]) =>
  asked.filter((a) => a.what === 'PUT /api/crossings/5').at(-1)?.body as Put

/** Opens the dialog with what can be brought. */
async function bringMore(page: Awaited<ReturnType<typeof room>>['page']): Promise<void> {
  const more = page.findAll('button').find((b) => b.text().startsWith('bring more'))!
  await more.trigger('click')
  await flushPromises()
}

describe('a crossing', () => {
  it('shows each file as it is and as it will lie, and what stays', async () => {
    const { page } = await room(crossing())
    expect(page.text()).toContain('3 files')
    expect(page.text()).toContain('PATTERNS fills to')
    expect(page.text()).toContain('CON is a device')
    expect(page.text()).toContain('12 clusters too many')
    expect(page.text()).toContain('1 stays on the quay, 1 to look at')
    expect(page.text()).toContain('45 entries, 3 pages')
    expect(page.find('svg').attributes('aria-label')).toBe(
      'PATTERNS: there already 100 KiB, comes aboard 200 KiB, free after 420 KiB',
    )
    await page
      .findAll('button')
      .find((b) => b.text().startsWith('only what changes'))!
      .trigger('click')
    expect(page.findAll('[data-row]')).toHaveLength(2)
  })

  it('says what files are and what the menu of the machine does with them', async () => {
    const view = crossing()
    view.laid.rows = [
      row({ kind: 'recorded tape', starts: 'SLOWLY', how: 'played' }),
      row({ from: 'a.zip', kind: 'packed', starts: 'NOT', how: 'unpack it first' }),
      row({ from: 'b.dsk', kind: 'disk image', fault: 'it is cut short' }),
    ]
    view.laid.menu = {
      ...NO_MENU,
      says: 'shows them by name',
      lines: 14,
      startFiles: [{ path: 'SYSTEM/START.BIN', what: 'the menu itself', there: false }],
      starts: [{ starts: 'SLOWLY', says: 'by a slower road', files: 1, time: '3 min' }],
    }
    const { page, asked } = await room(view)
    expect(page.text()).toContain('packed · ✕ unpack it first')
    expect(page.text()).toContain('▲ disk image, but it is cut short')
    expect(page.text()).toContain('is missing: without it the menu does not come up')
    expect(page.text()).toContain('1 by a slower road, 3 min of tape')
    await page.find('select[aria-label^="Machine"]').setValue('cart')
    await flushPromises()
    expect(put(asked).choices.machine).toBe('cart')
  })

  it('names disks as the emulator of a carrier asks, with its list, and undoes it', async () => {
    const view = crossing()
    view.choices.names = { 'Heron.pat': 'own.img' }
    const asks = 'it asks for names like DISK000.IMG'
    view.laid.rows = [row({ starts: 'NOT', how: asks })]
    view.laid.menu = {
      ...NO_MENU,
      says: 'its emulator finds drives by names like DISK000.IMG',
      starts: [{ starts: 'NOT', says: 'not found by it', files: 1, time: '' }],
      numbered: { 'Heron.pat': 'DISK003.IMG' },
      list: 'SLOTS.TXT',
    }
    const { page, asked } = await room(view)
    expect(page.text()).toContain(`✕ ${asks}`)
    expect(page.text()).toContain('✕ 1 not found by it')
    expect(page.text()).toContain('SLOTS.TXT is written along')
    const button = page.findAll('button').find((b) => b.text() === 'Name 1 as it asks')!
    await button.trigger('click')
    await flushPromises()
    expect(put(asked).choices.names).toEqual({ 'Heron.pat': 'DISK003.IMG' })
    await useUndo().back()
    await flushPromises()
    const last = asked.filter((a) => a.what.startsWith('PUT')).at(-1)!
    expect((last.body as { choices: unknown }).choices).toMatchObject({
      names: { 'Heron.pat': 'own.img' },
    })
  })

  it('makes the copy for the list of the emulator alone', async () => {
    const view = crossing()
    view.laid.rows = []
    view.laid.over = 0
    view.laid.menu = { ...NO_MENU, list: 'SLOTS.TXT' }
    const { page } = await room(view)
    const make = page.findAll('button').find((b) => b.text() === 'Make the copy')!
    expect(make.attributes('disabled')).toBeUndefined()
  })

  it('brings an image as one file, and the disks of a library', async () => {
    const from = 'POST /api/crossings/5/from-image'
    const { page, asked } = await room(crossing(), {
      'GET /api/images': [{ id: 40, name: 'mill library', size: '2 MiB' }],
      'GET /api/images/40/survey': { scheme: 'library', volumes: [] },
      [from]: { ...errand, state: 'DONE', made: 5 },
    })
    await bringMore(page)
    const dialog = document.body
    const pick = async (label: string, value: string) => {
      const field = dialog.querySelector<HTMLSelectElement>(label)!
      field.value = value
      field.dispatchEvent(new Event('change'))
      await flushPromises()
    }
    await pick('select[aria-label="Image"]', '40')
    const ways = [...dialog.querySelectorAll<HTMLSelectElement>('form select')].at(-1)!
    expect([...ways.options].map((o) => o.value)).toEqual(['FILES', 'WHOLE', 'DISKS'])
    ways.value = 'DISKS'
    ways.dispatchEvent(new Event('change'))
    await flushPromises()
    const bring = [...dialog.querySelectorAll('button')].find(
      (b) => b.textContent?.trim() === 'Bring them',
    )!
    expect(bring.disabled).toBe(false)
    bring.click()
    await flushPromises()
    expect(asked.find((a) => a.what === from)?.body).toEqual({
      image: 40,
      in: '',
      brings: 'DISKS',
      volume: 0,
      folder: '',
    })
  })

  it('brings the files of a drive that lies on a carrier', async () => {
    const from = 'POST /api/crossings/5/from-image'
    const readable = { number: 1, letter: '', label: 'CARRIER', kind: 'FAT32', readable: true }
    const { page, asked } = await room(crossing(), {
      'GET /api/images': [{ id: 41, name: 'carrier', size: '2 MiB' }],
      'GET /api/images/41/survey': { scheme: 'MBR', volumes: [readable] },
      'GET /api/images/41/files': {
        total: 2,
        rows: [
          { path: 'DISK000.IMG', drive: true },
          { path: 'READ.ME', drive: false },
        ],
      },
      [from]: { ...errand, state: 'DONE', made: 5 },
    })
    await bringMore(page)
    const choose = async (field: HTMLSelectElement, value: string) => {
      field.value = value
      field.dispatchEvent(new Event('change'))
      await flushPromises()
      await flushPromises()
    }
    await choose(
      document.body.querySelector<HTMLSelectElement>('select[aria-label="Image"]')!,
      '41',
    )
    const which = [...document.body.querySelectorAll<HTMLSelectElement>('form select')].find((s) =>
      [...s.options].some((o) => o.value === '1/DISK000.IMG'),
    )!
    expect(which.options).toHaveLength(2)
    await choose(which, '1/DISK000.IMG')
    ;[...document.body.querySelectorAll('button')]
      .find((b) => b.textContent?.trim() === 'Bring them')!
      .click()
    await flushPromises()
    expect(asked.find((a) => a.what === from)?.body).toMatchObject({
      image: 41,
      in: '1/DISK000.IMG',
      brings: 'FILES',
      volume: 1,
    })
  })

  it('notes what was tried on the machine once it went over', async () => {
    const view = crossing({ carried: true })
    const after = {
      ...view,
      tried: [{ id: 3, path: 'HERON.PAT', started: false, says: 'blank', author: '', at: '' }],
    }
    const { page, asked } = await room(view, { 'POST /api/crossings/5/tried': after })
    expect(page.text()).toContain('Whether one of them starts there only you can see.')
    await page.find('input[aria-label="What was seen"]').setValue('blank')
    await page
      .findAll('button')
      .find((b) => b.text() === 'It did not')!
      .trigger('click')
    await flushPromises()
    expect(asked.find((a) => a.what === 'POST /api/crossings/5/tried')?.body).toMatchObject({
      path: 'HERON.PAT',
      started: false,
      says: 'blank',
    })
    expect(page.text()).toContain('HERON.PAT did not start: blank')
  })

  it('puts the disks of a set into a library, and says why it cannot', async () => {
    const view = crossing({ carried: true, image: 0, disk: '200-two' })
    view.laid.disks = [
      { ...disk, name: 'Disk 1', image: 21 },
      { ...disk, name: 'Disk 2', image: 22 },
    ]
    const into = 'POST /api/crossings/5/library'
    const full = { ...errand, state: 'FAILED', sentence: 'That library has 1 free place.' }
    const answers: Record<string, unknown> = {
      'GET /api/images': [{ id: 40, name: 'mill library', size: '2 MiB' }],
      [into]: full,
    }
    const first = await room(view, answers)
    await first.page.find('select[aria-label="Library"]').setValue(40)
    const press = async (page: typeof first.page) => {
      const button = page.findAll('button').find((b) => b.text() === 'Put them in')!
      await button.trigger('submit')
      await flushPromises()
    }
    await press(first.page)
    expect(first.asked.find((a) => a.what === into)?.body).toEqual({ library: 40 })
    expect(first.page.text()).toContain('✕ That library has 1 free place.')
    const second = await room(view, {
      ...answers,
      [into]: { ...errand, state: 'DONE', made: 31 },
    })
    await press(second.page)
    expect(second.asked.find((a) => a.what === into)?.body).toEqual({ library: 0 })
    expect(second.page.text()).toContain('Each disk was compared in its place.')
  })

  it('takes a note of what was tried back', async () => {
    const view = crossing({ carried: true })
    const tried = [{ id: 3, path: 'HERON.PAT', started: true, says: '', author: '', at: '' }]
    const { page, asked } = await room(view, {
      'POST /api/crossings/5/tried': { ...view, tried },
      'DELETE /api/crossings/5/tried/3': view,
    })
    await page
      .findAll('button')
      .find((b) => b.text() === 'It started')!
      .trigger('click')
    await flushPromises()
    expect(page.text()).toContain('HERON.PAT started')
    await useUndo().back()
    await flushPromises()
    expect(asked.at(-1)?.what).toContain('DELETE /api/crossings/5/tried/3')
    expect(page.text()).not.toContain('HERON.PAT started')
  })

  it('lets the job of the image go on from the copy, and back', async () => {
    const view = crossing({ carried: true })
    view.laid.disks = [{ ...disk, image: 12 }]
    const job = { id: 7, version: 3, machine: 'Larkspur' }
    const { page, asked } = await room(view, {
      'GET /api/jobs/from/9': [job],
      'GET /api/jobs/from/12': [{ ...job, version: 4 }],
      'PUT /api/jobs/7/source': {},
    })
    await page
      .findAll('button')
      .find((b) => b.text() === 'Larkspur: go on from the copy')!
      .trigger('click')
    await flushPromises()
    const put = () => asked.filter((a) => a.what === 'PUT /api/jobs/7/source').at(-1)?.body
    expect(put()).toEqual({ version: 3, imageId: 12 })
    expect(page.text()).toContain('goes on from the copy; its plan is laid out anew')
    await useUndo().back()
    await flushPromises()
    expect(put()).toEqual({ version: 4, imageId: 9 })
  })

  it('takes a name and leaves a file out by keyboard alone', async () => {
    const { page, asked } = await room(crossing())
    const all = page.findAll<HTMLElement>('[data-row]')
    all[0].element.focus()
    await all[0].trigger('keydown', { key: 'ArrowDown' })
    expect(document.activeElement).toBe(all[1].element)
    await all[1].trigger('keydown', { key: 'Enter' })
    const input = page.find('input[aria-label="Name for con.pat"]')
    await input.setValue('CONSOLE.PAT')
    await input.trigger('keydown', { key: 'Enter' })
    await flushPromises()
    expect(put(asked).choices.names).toEqual({ 'con.pat': 'CONSOLE.PAT' })
    // What it is really called then stands in the answer, and the keys go on from its row.
    expect(useUndo().text).toBe('con.pat will be called CON_.PAT.')
    expect(document.activeElement).toBe(all[1].element)
    expect(put(asked).version).toBe(2)
    await page.findAll('[data-row]')[0].trigger('keydown', { key: 'Delete' })
    await flushPromises()
    expect(put(asked).choices.left).toEqual(['Heron.pat'])
  })

  it('changes what is there already, and says that the copy will differ', async () => {
    const { page, asked } = await room(crossing())
    await page
      .findAll('button')
      .find((b) => b.text().startsWith('there already'))!
      .trigger('click')
    await page.find('[aria-label="Take OLD/A.PAT off"]').trigger('click')
    await flushPromises()
    expect(put(asked).choices.changes).toEqual([{ path: 'OLD/A.PAT', verb: 'REMOVE', to: '' }])
    await page.find('[aria-label="Marks of OLD/A.PAT"]').findAll('button')[1].trigger('click')
    await flushPromises()
    expect(put(asked).choices.changes).toEqual([{ path: 'OLD/A.PAT', verb: 'MARKS', to: 'ha' }])
  })

  it('offers the way back where a change cannot be made', async () => {
    const view = crossing({ refusal: 'There is no X on the volume.' })
    view.choices.changes = [{ verb: 'REMOVE', path: 'X', to: '' }]
    const { page, asked } = await room(view)
    await page
      .findAll('button')
      .find((b) => b.text() === 'Take the changes back')!
      .trigger('click')
    await flushPromises()
    expect(put(asked).choices.changes).toEqual([])
  })

  it('is carried as it was seen, and then leads back by its list', async () => {
    const view = crossing()
    const { page, asked } = await room(view, {
      'POST /api/crossings/5/carry': () => {
        view.carried = true
        return errand({ state: 'DONE', made: 12 })
      },
    })
    useUndo().offer('A name.', async () => {})
    await page.find('button.next').trigger('click')
    await flushPromises()
    expect(asked.some((a) => a.what === 'POST /api/crossings/5/carry')).toBe(true)
    expect(useUndo().text).toBe('')
    expect(page.text()).toContain('2 files carried over')
    expect(page.find('a[href="/api/crossings/5/zip"]').exists()).toBe(true)
    expect(page.find('button.next').exists()).toBe(false)
  })

  it('lets what does not fit go on to another volume, and says where each lies', async () => {
    const others = [{ number: 2, name: 'STORE', free: '3 MiB' }]
    const { page, asked } = await room(crossing({ others }))
    expect(page.text()).toContain('STORE, 3 MiB free')
    expect(page.text()).not.toContain('keep folders together')
    await page.find('[role=group] input').setValue(true)
    await flushPromises()
    expect(put(asked).choices.further).toEqual([2])

    const both = crossing({ others })
    both.choices.further = [2]
    both.laid.rows = [row({}), row({ from: 'big.bin', to: 'BIG.BIN', disk: 1 })]
    both.laid.disks = [disk, { ...disk, name: 'STORE', files: 1 }]
    const next = await room(both)
    expect(next.page.text()).toContain('2 volumes')
    expect(next.page.text()).toContain('onto STORE')
    expect(next.page.text()).toContain('keep folders together')
    await next.page
      .findAll('button')
      .find((b) => b.text() === 'STORE')!
      .trigger('click')
    expect(next.page.findAll('[data-row]')).toHaveLength(1)
    await next.page.find('[role=group] input').setValue(false)
    await flushPromises()
    expect(put(next.asked).choices.further).toEqual([])
  })

  it('over a set shows the disks, and says whether fewer would do', async () => {
    const view = crossing({ image: 0, disk: '720K', target: 'new disks, 720K' })
    view.laid.disks = [
      { ...disk, name: 'Disk 1' },
      { ...disk, name: 'Disk 2' },
    ]
    view.laid.least = 2
    const { page } = await room(view)
    expect(page.text()).toContain('no fewer would do')
    await page
      .findAll('button')
      .find((b) => b.text() === 'Disk 2')!
      .trigger('click')
    expect(page.findAll('[data-row]')).toHaveLength(0)
  })

  it('shows a text before and after, and asks for what was chosen', async () => {
    const { page, asked } = await room(crossing(), {
      'GET /api/crossings/5/text': {
        before: 'one‹LF›',
        after: 'one‹CR›‹LF›',
        says: 'LF → CR LF',
        lost: '',
      },
    })
    await page
      .findAll('button')
      .find((b) => b.text().startsWith('texts: as they are'))!
      .trigger('click')
    await flushPromises()
    expect(document.body.textContent).toContain('LF → CR LF; the old bytes can be had again')
    const ends = document.querySelector<HTMLSelectElement>('[role=dialog] select')!
    ends.value = 'CRLF'
    ends.dispatchEvent(new Event('change'))
    await flushPromises()
    expect(put(asked).choices.text).toMatchObject({ ends: 'CRLF', tabs: 0 })
  })

  it('without a file says what to do first', async () => {
    const view = crossing()
    view.laid.rows = []
    const { page } = await room(view)
    expect(page.text()).toContain('Nothing waits on the quay yet')
    await page.find('button.next').trigger('click')
    expect(document.body.textContent).toContain('From an image of the shelf')
  })
})

describe('the crossings of the shelf', () => {
  it('are listed and taken away with a way back', async () => {
    const line = {
      id: 5,
      target: 'new disks',
      files: 3,
      carried: false,
      at: '2026-11-27T00:00:00Z',
    }
    const asked = answer({
      'GET /api/crossings': [line],
      'DELETE /api/crossings/5': {},
    })
    const page = show(CrossingLines)
    await flushPromises()
    expect(page.text()).toContain('3 files, ○ waits')
    await page.find('[aria-label="Take away the crossing to new disks"]').trigger('click')
    await flushPromises()
    expect(asked.some((a) => a.what === 'DELETE /api/crossings/5')).toBe(true)
  })
})
