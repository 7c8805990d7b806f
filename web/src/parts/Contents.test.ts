import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Errand, Schemas, Wish } from '../api/client'
import ImagesRoom from '../rooms/ImagesRoom.vue'
import RescueWishes from '../stations/rescue/RescueWishes.vue'
import RepairPanel from '../stations/survey/RepairPanel.vue'
import { answer, errand, show, sum } from '../test/page'
import Contents from './Contents.vue'
import HexView from './HexView.vue'
import TextView from './TextView.vue'

afterEach(() => {
  document.body.innerHTML = ''
  localStorage.clear()
})

function sector(lba: number): Schemas['SectorRow'] {
  const fields = lba === 0 ? [{ at: 2, length: 2, name: 'heads' }] : []
  return { lba, hex: '00ff1000'.repeat(128), place: lba === 0 ? 'table' : 'file A.TXT', fields }
}

function volume(number: number, kind = 'FAT16'): Schemas['VolumeView'] {
  return {
    number,
    letter: 'C',
    start: 63,
    length: 1000,
    size: '0.4 MiB',
    kind,
    label: 'V' + number,
    readable: true,
    active: true,
    files: 2,
    notWhole: 0,
    folders: 1,
    bytes: '1 KiB',
    clusterSize: '2.0 KiB',

    unit: 'cluster',
    free: '0.3 MiB',
    systemFiles: [],
    guesses: [],
    freeBecause: sum,
  }
}

const survey = (volumes: Schemas['VolumeView'][]) => ({
  sectors: 100,
  size: '0.1 MiB',
  scheme: 'MBR',
  volumes,
  geometry: [],
  findings: [],
  boot: [],
})
const row = (path: string, folder = false) => ({
  path,
  name: path.split('/').at(-1)!,
  notWhole: '',
  drive: false,
  folder,
  bytes: 5,
  size: '5 B',
  time: '1994-01-02 03:04',
  marks: 'ra',
})

describe('the sectors of an image', () => {
  it('names what lies there and the field under the cursor with its value', async () => {
    answer({ 'GET /api/images/4/sectors': [sector(0), sector(1)] })
    const w = show(HexView, { props: { image: 4, sectors: 100 } })
    await flushPromises()
    expect(w.text()).toContain('table')
    await w.findAll('.cursor-pointer')[3].trigger('click')
    expect(w.find('[aria-live]').text()).toMatch(/heads\s+16/)
    await w.findAll('.cursor-pointer')[9].trigger('click')
    expect(w.find('[aria-live]').text()).not.toContain('heads')
  })

  it('goes to a sector, page by page, and never past the ends of 64 GiB', async () => {
    const asked = answer({ 'GET /api/images/4/sectors': [sector(0)] })
    const w = show(HexView, { props: { image: 4, sectors: 1 << 27 } })
    await flushPromises()
    const at = () => (w.find('input[aria-label=Sector]').element as HTMLInputElement).value
    const page = async (key: string) => {
      window.dispatchEvent(new KeyboardEvent('keydown', { key }))
      await flushPromises()
    }
    await w.find('input[aria-label=Sector]').setValue('999999999')
    await w.find('form').trigger('submit')
    expect(at()).toBe('134217727')
    await page('PageDown')
    expect(at()).toBe('134217727')
    await page('PageUp')
    await page('PageUp')
    expect(at()).toBe('134217726')
    await vi.waitUntil(() => asked.length > 1)
    await w.find('[role=application]').trigger('keydown', { key: 'Home', ctrlKey: true })
    await page('PageUp')
    expect(at()).toBe('0')
    expect(w.findAll('[role=application] p')).toHaveLength(16)
  })

  it('moves its cursor by arrow keys, and the window with it', async () => {
    answer({ 'GET /api/images/4/sectors': [sector(0), sector(1)] })
    const w = show(HexView, { props: { image: 4, sectors: 2 } })
    await flushPromises()
    const press = (key: string) => w.find('[role=application]').trigger('keydown', { key })
    await press('ArrowRight')
    await press('ArrowRight')
    expect(w.find('[aria-live]').text()).toMatch(/heads/)
    await press('End')
    await press('Home')
    await press('ArrowLeft')
    expect(w.find('.outline-lamp').text()).toBe('00')
    for (let i = 0; i < 33; i++) await press('ArrowDown')
    expect(w.find('[aria-live]').text()).toContain('file A.TXT')
    expect(w.find('[role=application] p').text()).not.toMatch(/000/)
    await w.find('input[type=range]').setValue('0')
    expect(w.find('[role=application] p').text()).toMatch(/^0000/)
  })
})

describe('what is on an image', () => {
  it('lists files with their marks, hands out folders as zip, previews by code page', async () => {
    const asked = answer({
      'GET /api/images/4/survey': survey([volume(1), volume(5)]),
      'GET /api/images/4/files': { total: 2, rows: [row('DATA', true), row('DATA/A.TXT')] },
      'GET /api/images/4/text': { text: 'hello', bytes: 70_000, whole: false },
    })
    const w = show(Contents, { props: { image: 4, sectors: 100 } })
    await flushPromises()
    expect(w.text()).toContain('ra')
    expect(w.findAll('a').map((a) => a.text())).toEqual(['All as zip', 'zip', 'get'])
    await w.findAll('td button')[1].trigger('click')
    await flushPromises()
    expect(w.find('pre').text()).toBe('hello')
    expect(w.text()).toContain('the first 64 KiB')
    await w.find('label select').setValue('1252')
    await flushPromises()
    expect(asked.filter((a) => a.what.endsWith('/text'))).toHaveLength(2)
    await w.find('input[aria-label="Find a file"]').setValue('a.txt')
    await flushPromises()
    const some = w.findAll('a').find((a) => a.text() === 'These as zip')!
    expect(some.attributes('href')).toContain('folder=&find=a.txt')
    expect(localStorage.getItem('shed.page')).toBe('1252')
  })

  it('tells what stands out, and reminds of private things', async () => {
    let over = false
    const note = { path: 'BIG.DAT', bytes: 9, size: '9 B', time: '1994-01-02 03:04' }
    answer({
      'GET /api/images/4/survey': survey([volume(1)]),
      'GET /api/images/4/files': { total: 0, rows: [] },
      'GET /api/images/4/notable': {
        largest: [note],
        newest: [note],
        oldest: [note],
        deleted: [{ ...note, path: '_LD.DAT' }],
        deletedCount: 1,
        slack: [
          { clusterBytes: 2048, wasteBytes: 5, largestSectors: 9, chosen: true, because: sum },
        ],
        personal: ['LETTERS/MUM.DOC'],
        personalCount: 12,
      },
      'POST /api/images/4/twins': errand({ done: 1 << 20, total: 4 << 20 }),
      'GET /api/errands/e1': () => (over ? errand({ state: 'DONE' }) : errand({ done: 3 << 20 })),
      'GET /api/images/4/twins': {
        count: 9,
        spare: '36 B',
        first: [{ sha256: 'x', bytes: 9, paths: ['A', 'B', 'C', 'D'] }],
      },
    })
    const w = show(Contents, { props: { image: 4, sectors: 100 } })
    await flushPromises()
    expect(w.text()).toContain('Nothing is in this folder')
    await w.findAll('button')[1].trigger('click')
    await flushPromises()
    expect(w.find('[role=progressbar]').attributes('aria-valuenow')).toBe('25')
    over = true
    await vi.waitUntil(() => w.text().includes('A = B = C'))
    expect(w.find('[role=progressbar]').exists()).toBe(false)
    expect(w.text()).toContain('36 B to spare')
    expect(w.text()).toContain('and 1 more')
    expect(w.text()).toContain('_LD.DAT')
    expect(w.text()).toContain('● as it is')
    expect(w.text()).toContain('deleting is not wiping')
  })

  it('says so where nothing can be read as files', async () => {
    answer({ 'GET /api/images/4/survey': survey([]) })
    const w = show(Contents, { props: { image: 4, sectors: 100 } })
    await flushPromises()
    expect(w.text()).toContain('its sectors can')
  })

  it('shows a picture as a picture', async () => {
    answer({})
    const w = show(TextView, { props: { image: 4, volume: 1, path: 'LOGO.BMP' } })
    await flushPromises()
    expect(w.find('img').attributes('src')).toContain('/picture?volume=1&path=LOGO.BMP')
    expect(w.find('select').exists()).toBe(false)
  })
})

describe('BASIC as tokens', () => {
  const part = { bytes: 30, whole: true, kind: 'BASIC as tokens', fault: '', basic: true }
  const about = '2 lines, 10 to 20'

  it('is listed by its numbers, by a table that is brought, and as it lies', async () => {
    const line = { id: 7, name: 'mill', words: 2 }
    const tables = [] as Schemas['TableLine'][]
    const asked = answer({
      'GET /api/token-tables': () => [...tables],
      'POST /api/token-tables': () => {
        tables.push(line)
        return line
      },
      'DELETE /api/token-tables/7': () => tables.pop(),
      'GET /api/images/4/text': () => ({ ...part, about, text: '10 {99}' }),
    })
    const w = show(TextView, { props: { image: 4, volume: 1, path: 'A.BAS' } })
    await flushPromises()
    expect(w.text()).toContain('BASIC as tokens: 2 lines, 10 to 20')
    expect(w.text()).not.toContain('code page')
    const field = w.find('input[type=file]')
    const file = new File(['{"tokens":{"99":"PRINT"}}'], 'mill.json')
    Object.defineProperty(field.element, 'files', { value: [file], configurable: true })
    await field.trigger('change')
    await vi.waitFor(() => expect(w.find('select').element.value).toBe('7'))
    expect(asked.find((a) => a.what.startsWith('POST'))?.body).toEqual({
      name: 'mill',
      text: '{"tokens":{"99":"PRINT"}}',
    })
    expect(localStorage.getItem('shed.tokens')).toBe('7')
    await w
      .findAll('button')
      .find((b) => b.text() === 'take it out')!
      .trigger('click')
    await flushPromises()
    expect(w.find('select').element.value).toBe('0')
    await w.find('select').setValue('-1')
    await flushPromises()
    expect(w.text()).toContain('code page')
  })

  it('says why a table cannot be taken', async () => {
    answer({
      'GET /api/token-tables': [],
      'POST /api/token-tables': { status: 422, sentence: 'The token table is not JSON.' },
      'GET /api/images/4/text': { ...part, about, text: '10 {99}' },
    })
    const w = show(TextView, { props: { image: 4, volume: 1, path: 'A.BAS' } })
    await flushPromises()
    const field = w.find('input[type=file]')
    Object.defineProperty(field.element, 'files', { value: [new File(['no'], 'x.json')] })
    await field.trigger('change')
    await vi.waitFor(() => expect(w.text()).toContain('✕'))
    expect(localStorage.getItem('shed.tokens')).toBeNull()
  })
})

describe('the order of a rescue', () => {
  it('is one of three and keeps its retries', async () => {
    let wish: Wish = { retries: 2, filesFirst: false, skipFree: false }
    const w = show(RescueWishes, {
      props: {
        running: true,
        modelValue: wish,
        'onUpdate:modelValue': (x: Wish) => (wish = x),
      },
    })
    expect(w.text()).toContain('may change now')
    await w.findAll('input[type=radio]')[2].trigger('change')
    expect(wish).toEqual({ retries: 2, filesFirst: true, skipFree: true })
    await w.setProps({ modelValue: wish } as never)
    await w.find('input[type=number]').setValue('5')
    await w.find('input[type=number]').trigger('change')
    expect(wish.retries).toBe(5)
    expect(w.emitted('change')?.length).toBeGreaterThan(1)
  })
})

describe('mending a copy', () => {
  it('lists every change before it is made and says where the copy lies', async () => {
    const change = (what: string) => ({
      rule: 'F-9',
      weight: 'NOTE' as const,
      where: 'FAT',
      what,
      todo: '',
      because: sum,
    })
    const changes = ['one', 'two', 'three', 'four'].map(change)
    const asked = answer({
      'GET /api/images/4/repair': changes,
      'POST /api/images/4/repair': errand({ state: 'DONE', made: 9 }),
    })
    const w = show(RepairPanel, { props: { image: 4, volume: 1 } })
    await flushPromises()
    expect(w.findAll('li')).toHaveLength(3)
    await w.findAll('button')[0].trigger('click')
    expect(w.findAll('li')).toHaveLength(4)
    await w.findAll('button')[1].trigger('click')
    await flushPromises()
    expect(asked.some((a) => a.what === 'POST /api/images/4/repair')).toBe(true)
    expect(w.find('[role=status]').text()).toContain('lies on the shelf')
  })

  it('stays away where nothing is to mend', async () => {
    answer({ 'GET /api/images/4/repair': [] })
    const w = show(RepairPanel, { props: { image: 4, volume: 1 } })
    await flushPromises()
    expect(w.text()).toBe('')
  })
})

describe('two images', () => {
  const image = (id: number): Partial<Schemas['ImageView']> => ({
    id,
    name: `image ${id}`,
    size: '1 MiB',
    sectors: 2048,
    sha256: `digest ${id}`,
    origin: 'a drive',
    lost: 0,
  })

  it('are compared in the background, and stopped when asked', async () => {
    let state: Errand['state'] = 'RUNNING'
    const asked = answer({
      'GET /api/crossings': [],
      'GET /api/images': [image(1), image(2)],
      'POST /api/images/1/against/2': errand({ done: 2 << 20, phase: 'comparing chunk by chunk' }),
      'GET /api/errands/e1': () => errand({ state, done: 2 << 20 }),
      'DELETE /api/errands/e1': errand(),
      'GET /api/images/1/against/2': {
        identical: false,
        sentence: '3 sectors differ.',
        ranges: [{ start: 7, length: 3, place: 'file A.TXT, file B.TXT' }],
        volumes: [
          {
            name: 'WARP',
            sentence: '7 files are the same byte for byte, 2 differ.',
            same: 7,
            lists: [{ title: 'differ', count: 20, first: ['A.TXT', 'B.TXT'] }],
          },
        ],
      },
    })
    const w = show(ImagesRoom)
    await flushPromises()
    const [one, other] = w.findAll('select')
    await one.setValue(1)
    await other.setValue(2)
    await flushPromises()
    expect(w.text()).toContain('50 %')
    expect(w.text()).toContain('comparing chunk by chunk')
    await w
      .findAll('button')
      .find((b) => b.text() === 'Stop')!
      .trigger('click')
    state = 'STOPPED'
    await vi.waitUntil(() => w.find('[role=alert]').exists())
    expect(w.find('[role=alert]').text()).toContain('Stopped, as asked')
    expect(asked.map((a) => a.what)).toContain('DELETE /api/errands/e1')
    state = 'DONE'
    await one.setValue(0)
    await one.setValue(1)
    await vi.waitUntil(() => w.text().includes('3 sectors differ.'))
    expect(w.text()).toContain('A.TXT · B.TXT and 8 more')
  })
})
