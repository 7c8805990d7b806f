import { DOMWrapper, flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Plan, PlanChoice } from '../../api/client'
import { answer, job, show, station, sum } from '../../test/page'
import PlanStation from './PlanStation.vue'
import VolumeCard from './VolumeCard.vue'

const slack = [2048, 4096, 8192].map((clusterBytes) => ({
  clusterBytes,
  wasteBytes: clusterBytes * 1000,
  largestSectors: clusterBytes * 127,
  chosen: clusterBytes === 4096,
  because: sum,
}))

function volume(letter: string, label: string, start: number, end: number, source: number) {
  return {
    letter,
    label,
    source,
    start,
    length: end - start,
    tableSector: 0,
    logical: letter !== 'C',
    active: letter === 'C',
    type: '06',
    typeName: 'FAT16 from 32 MiB',
    kind: 'FAT16',
    clusterBytes: 4096,
    loader: '',
    unit: 'cluster',
    sectorBytes: 512,
    clusters: 60_000,
    usedBytes: 1000,
    layout: sum,
    slack,
    files: [],
  }
}

const peg = {
  rule: 'G-2',
  name: 'Plain C/H/S firmware',
  sectors: 1_032_192,
  scope: 'MEDIUM',
  because: sum,
}

function plan(buildable = true): Plan {
  return {
    machine: 'controller-pc',
    family: 'pc',
    firmware: 'plain',
    system: 'dos-5',
    madeBy: '',
    card: {
      name: 'mill-3',
      labelBytes: 8_000_000_000,
      measured: 15_625_216,
      own: { cylinders: 0, heads: 0, sectors: 0 },
    },
    pegs: [peg],
    binding: peg,
    reach: 1_032_192,
    outOfReach: 14_593_024,
    reachBecause: sum,
    outOfReachBecause: sum,
    geometry: { cylinders: 1024, heads: 16, sectors: 63 },
    imageSectors: 1_032_192,
    strategy: 'REBUILD',
    school: 'MACHINE',
    keepBootCode: false,
    mostVolumes: 24,
    volumes: [
      volume('C', 'PATTERNS', 63, 262_080, 1),
      volume('D', 'ARCHIVE', 262_143, 1_032_192, -1),
    ],
    strategies: [
      {
        key: 'CLONE',
        title: 'Clone',
        possible: false,
        keeps: ['Every sector.'],
        loses: ['Not possible here.'],
      },
      {
        key: 'REBUILD',
        title: 'Rebuild',
        possible: true,
        keeps: ['Every file.'],
        loses: ['Deleted files.'],
      },
    ],
    start: { kind: 'MEANT', sentence: 'Meant to start with LOOMIO.SYS.' },
    lifts: [{ what: 'option ROM', reach: 15_000_000 }],
    mounts: [],
    verdicts: [
      {
        weight: buildable ? 'HOLDS' : 'STOPS',
        rule: 'G-2',
        text: 'Every volume ends within reach.',
        because: sum,
      },
    ],
    steps: [{ text: 'Type the values of type 47', value: '1024 · 16 · 63', answers: '' }],
    buildable,
  } as Plan
}

const choice: PlanChoice = {
  firmware: '',
  system: '',
  cardId: 3,
  drawer: [],
  strategy: 'REBUILD',
  school: 'MACHINE',
  volumes: [],
  keepBootCode: false,
  carried: [],
  drivers: [],
}

const at = { job: job({ rescuedId: 4 }), station: station(5, 'LIT') }

function open(more: Record<string, unknown> = {}) {
  const asked = answer({
    'GET /api/jobs/7/plan': { choice, plan: plan(), settled: false },
    'POST /api/jobs/7/plan/preview': plan(),
    'PUT /api/jobs/7/plan': { choice, plan: plan(), settled: true },
    'GET /api/machines': { machines: [], systems: [] },
    'GET /api/media': [],
    'POST /api/jobs/7/plan/starts': [],
    ...more,
  })
  return { w: show(PlanStation, { props: at }), asked }
}

beforeEach(() => vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] }))
afterEach(() => {
  localStorage.clear()
  vi.useRealTimers()
  document.body.innerHTML = ''
})

async function settle(): Promise<void> {
  await flushPromises()
  await vi.advanceTimersByTimeAsync(60)
  await flushPromises()
}

describe('drivers in a table', () => {
  const mounted = (by: string, driver: object | null = null) => ({
    ...plan(by !== 'NOBODY'),
    mounts: [{ type: 'DOS\\1', kind: 'FFS', letters: ['DH0', 'DH1'], by, driver }],
  })

  async function start(by: string, more: Record<string, unknown> = {}) {
    const opened = open({
      'GET /api/jobs/7/plan': { choice, plan: mounted(by), settled: false },
      'POST /api/jobs/7/plan/preview': mounted('BROUGHT', { name: 'FFS', version: '40.1' }),
      ...more,
    })
    await flushPromises()
    return opened
  }

  async function bring(w: ReturnType<typeof open>['w']) {
    const field = w.get<HTMLInputElement>('input[aria-label^="Bring a driver"]')
    Object.defineProperty(field.element, 'files', { value: [new File(['x'], 'FFS')] })
    await field.trigger('change')
    for (let i = 0; i < 5; i++) await flushPromises()
    await vi.advanceTimersByTimeAsync(100)
    await flushPromises()
  }

  it('says who mounts the volumes of a kind', async () => {
    const { w } = await start('OLD')
    const card = w.get('[aria-label="Drivers in the table"]').text()
    expect(card).toContain('DH0, DH1 · DOS\\1')
    expect(card).toContain('the old drive’s driver, which comes along')
    const newer = (await start('NEWER')).w.get('[aria-label="Drivers in the table"]').text()
    expect(newer).toContain('the newer of ROM and the old drive’s driver')
  })

  it('takes a file, and leaves it out again', async () => {
    const facts = { name: 'FFS', version: '40.1', said: '', bytes: 1, sha256: 'ab'.repeat(32) }
    const { w, asked } = await start('NOBODY', { 'POST /api/jobs/7/plan/drivers': facts })
    expect(w.get('[aria-label="Drivers in the table"]').text()).toContain('✕')
    await bring(w)
    const sent = () => asked.filter((a) => a.what.endsWith('/preview')).at(-1)?.body as PlanChoice
    expect(sent().drivers).toEqual([{ type: 'DOS\\1', name: 'FFS', sha256: 'ab'.repeat(32) }])
    expect(w.get('[aria-label="Drivers in the table"]').text()).toContain('FFS 40.1')
    await w.get('button[aria-label="Leave FFS out"]').trigger('click')
    await vi.advanceTimersByTimeAsync(100)
    expect(sent().drivers).toEqual([])
  })

  it('says why a file is none', async () => {
    const detail = 'FFS is no driver that the machine would load.'
    const { w } = await start('NOBODY', {
      'POST /api/jobs/7/plan/drivers': { status: 422, detail },
    })
    await bring(w)
    expect(w.get('[role="alert"]').text()).toContain(detail)
  })
})

describe('a carrier', () => {
  it('shows its drives under their ids and keeps the ids when one is taken off', async () => {
    const drive = (id: number, title: string) => ({
      name: `DRIVE${id}.IMG`,
      id,
      title,
      sha256: 'ab',
      bytes: 4096,
      text: '',
    })
    const carried = {
      ...plan(),
      family: 'carrier',
      strategy: 'CARRY' as const,
      volumes: [
        {
          ...volume('card', 'CARRIER', 8192, 1_000_000, -1),
          files: [drive(0, 'sounds'), drive(1, 'tour')],
        },
      ],
    } as Plan
    const chosen: PlanChoice = {
      ...choice,
      strategy: 'CARRY',
      carried: [
        { imageId: 4, id: -1 },
        { imageId: 5, id: -1 },
      ],
    }
    const { w, asked } = open({
      'GET /api/jobs/7/plan': { choice: chosen, plan: carried, settled: false },
      'POST /api/jobs/7/plan/preview': carried,
      'GET /api/images': [],
    })
    await settle()
    expect(w.text()).toContain('DRIVE1.IMG')
    expect(w.text()).not.toContain('Meant to start')
    await w.find('button[aria-label="Take sounds off the carrier"]').trigger('click')
    await settle()
    const sent = asked.filter((a) => a.what.endsWith('preview')).at(-1)?.body as PlanChoice
    expect(sent.carried).toEqual([{ imageId: 5, id: 1 }])
  })
})

describe('the start, tried before it is built', () => {
  const side = (kept: boolean, ending: string, sentence: string) => ({
    kept,
    chosen: kept,
    ending,
    sentence,
    screen: [],
  })

  it('stands with both boot codes, and the one that starts can be taken', async () => {
    const { w, asked } = open({
      'POST /api/jobs/7/plan/starts': [
        side(true, 'HANGS', 'It stands still.'),
        side(false, 'ENTERED', 'LOOMIO.SYS is entered at 0070:0000.'),
      ],
    })
    await settle()
    await vi.advanceTimersByTimeAsync(500)
    await settle()
    const rows = w.find('[aria-label="Tried before it is built"]').findAll('li')
    expect(rows.map((r) => r.text())).toEqual([
      '✕The old boot code, chosen: It stands still.',
      '✓The shed’s own: LOOMIO.SYS is entered at 0070:0000.  take it',
    ])
    await rows[1].find('button').trigger('click')
    await settle()
    const sent = asked.filter((a) => a.what.endsWith('preview')).at(-1)?.body as PlanChoice
    expect(sent.keepBootCode).toBe(false)
  })
})

describe('a set of floppies', () => {
  const disk = (id: number, title: string, text = '') => ({
    name: text ? 'SLOTS.TXT' : `DISK00${id}.IMG`,
    id,
    title,
    sha256: 'ab',
    bytes: 737_280,
    text,
  })
  const set = {
    ...plan(),
    machine: 'floppies',
    family: 'carrier',
    strategy: 'CARRY' as const,
    volumes: [
      {
        ...volume('card', 'CARRIER', 8192, 1_000_000, -1),
        files: [disk(5, 'spring'), disk(2, 'autumn'), disk(-1, 'the list', '002 DISK002.IMG')],
      },
    ],
  } as Plan
  const chosen: PlanChoice = {
    ...choice,
    strategy: 'CARRY',
    carried: [
      { imageId: 4, id: 5 },
      { imageId: 5, id: 2 },
    ],
  }
  const ids = [0, 1, 2, 3, 4, 5]
  const shown = async () => {
    const { w, asked } = open({
      'GET /api/jobs/7/plan': { choice: chosen, plan: set, settled: false },
      'POST /api/jobs/7/plan/preview': set,
      'GET /api/images': [],
      'GET /api/machines': {
        machines: [{ key: 'floppies', carrier: { template: 'DISK{number}.IMG', ids } }],
      },
      'GET /api/images/find': {
        hits: [{ image: 9, name: 'winter', in: '', path: '0/ROSE.PAT', size: '3 KiB' }],
        whole: true,
        left: 0,
        unread: ['spoiled disk'],
      },
    })
    await settle()
    const sent = () => {
      const last = asked.filter((a) => a.what.endsWith('preview')).at(-1)?.body as PlanChoice
      return last.carried
    }
    return { w, sent }
  }

  it('stands in the order of its numbers, with the list that the emulator reads', async () => {
    const { w } = await shown()
    const text = w.find('[aria-label="Disks on the carrier"]').text()
    expect(text.indexOf('autumn')).toBeLessThan(text.indexOf('spring'))
    expect(text).toContain('SLOTS.TXT')
    expect(text).toContain('002 DISK002.IMG')
  })

  it('exchanges two numbers, closes gaps, and adds the disk that holds a file', async () => {
    const { w, sent } = await shown()
    await w.find('select[aria-label="Number of spring"]').setValue(2)
    await settle()
    expect(sent()).toEqual([
      { imageId: 4, id: 2 },
      { imageId: 5, id: 5 },
    ])
    const gaps = w.findAll('button').find((b) => b.text() === 'Number them without gaps')
    await gaps?.trigger('click')
    await settle()
    expect(sent().map((c) => c.id)).toEqual([1, 0])
    await w.find('input[aria-label="Find a disk by a file on it"]').setValue('rose')
    await vi.advanceTimersByTimeAsync(300)
    await settle()
    expect(w.text()).toContain('Not read: spoiled disk')
    await w.find('button[aria-label="add: ROSE.PAT, winter"]').trigger('click')
    await settle()
    expect(sent()).toHaveLength(3)
    expect(sent()[2]).toEqual({ imageId: 9, id: -1 })
  })
})

describe('the plan', () => {
  it('says what fits before anything else, with its reasons', async () => {
    const { w } = open()
    await settle()
    const text = w.find('[aria-label="What fits"]').text()
    expect(text).toMatch(/^What fits/)
    for (const words of [
      '504.0 MiB',
      'out of reach',
      'C PATTERNS',
      'D ARCHIVE',
      'Every volume ends',
      '1024 · 16 · 63',
      'option ROM would reach',
    ]) {
      expect(text).toContain(words)
    }
    expect(w.findAll('button.next')).toHaveLength(1)
  })

  it('sends a moved edge to the core and takes it back with undo', async () => {
    const { w, asked } = open()
    await settle()
    await w.find('[role=slider]').trigger('keydown', { key: 'ArrowDown' })
    await settle()
    const sent = asked
      .filter((a) => a.what.endsWith('preview'))
      .map((a) => (a.body as PlanChoice).volumes)
    expect(sent).toHaveLength(1)
    expect(sent[0].map((v) => v.end)).toEqual([262_080 + 1008, 1_032_192])
    expect(sent[0].map((v) => v.source)).toEqual([1, -1])
    await w
      .findAll('button')
      .find((b) => b.text() === 'Undo')
      ?.trigger('click')
    await settle()
    const last = asked.at(-1)?.body as PlanChoice
    expect(last.volumes).toEqual([])
    expect(w.text()).not.toContain('Undo')
  })

  it('splits the last volume, and takes one out', async () => {
    const { w, asked } = open()
    await settle()
    await w
      .findAll('button')
      .find((b) => b.text().includes('split the last'))
      ?.trigger('click')
    await settle()
    expect((asked.at(-1)?.body as PlanChoice).volumes.map((v) => v.label)).toEqual([
      'PATTERNS',
      'ARCHIVE',
      'SPARE2',
    ])
    await w.find('[aria-label="Change D ARCHIVE"]').trigger('click')
    await w
      .findAll('button')
      .find((b) => b.text() === 'Take this volume out')
      ?.trigger('click')
    await settle()
    expect((asked.at(-1)?.body as PlanChoice).volumes.map((v) => v.label)).toEqual(['PATTERNS'])
  })

  it('settles with the version it was made on', async () => {
    const { w, asked } = open()
    await settle()
    await w.find('button.next').trigger('click')
    await settle()
    const put = asked.find((a) => a.what.startsWith('PUT'))
    expect(put?.body).toMatchObject({ version: 3, choice: { cardId: 3 } })
  })

  it('says whose the image on the card is, and offers free cards first', async () => {
    const card = (id: number, name: string) => ({ id, name, card: true, node: '', serial: '' })
    const row = { card: 3, image: 9, imageName: 'ticket disk', job: 8, machine: 'Larkspur 2100' }
    const cards = { 'GET /api/media': [card(3, 'taken'), card(4, 'free')] }
    const { w } = open({ ...cards, 'GET /api/register': [row] })
    await settle()
    expect(w.text()).toContain('holds “ticket disk” of Larkspur 2100; writing replaces that.')
    await w
      .findAll('button')
      .find((b) => b.text() === 'change the choices')!
      .trigger('click')
    const offered = w.findAll('select').at(-1)!.findAll('option')
    expect(offered.map((o) => o.text())).toEqual([
      'free',
      'taken · holds “ticket disk” of Larkspur 2100',
    ])
    // What this job has written itself is nobody else's.
    const own = open({ ...cards, 'GET /api/register': [{ ...row, job: 7 }] })
    await settle()
    expect(own.w.text()).not.toContain('writing replaces')
  })

  it('takes in a card where there is none, and plans for it', async () => {
    let cards: unknown[] = []
    const { w, asked } = open({
      'GET /api/jobs/7/plan': () =>
        cards.length
          ? { choice, plan: plan(), settled: false }
          : { status: 422, detail: 'There is no card to plan for yet.' },
      'GET /api/media': () => cards,
      'GET /api/register': [],
      'POST /api/media/cards': () => (cards = [{ id: 3, name: 'new', card: true, node: '' }])[0],
    })
    await settle()
    await w.get('button.next').trigger('click')
    const form = new DOMWrapper(document.body).get('form')
    await form.get('input[required]').setValue('new')
    await form.findAll('input[type=number]')[1].setValue('')
    await form.trigger('submit')
    await settle()
    const sent = asked.find((a) => a.what === 'POST /api/media/cards')?.body
    expect(sent).toMatchObject({ name: 'new', labelMegabytes: 512, sectors: 0 })
    expect(w.text()).toContain('Every volume ends within reach.')
  })

  it('cannot be settled while a rule stops it, and says a refusal of the core', async () => {
    const { w } = open({
      'GET /api/jobs/7/plan': { choice, plan: plan(false), settled: false },
      'POST /api/jobs/7/plan/preview': { status: 422, detail: 'The card has less than 1 MiB.' },
    })
    await settle()
    expect(w.find('button.next').attributes('disabled')).toBeDefined()
    await w.find('[role=slider]').trigger('keydown', { key: 'ArrowUp' })
    await settle()
    expect(w.find('[role=alert]').text()).toContain('less than 1 MiB')
  })
})

describe('a volume', () => {
  const props = {
    volume: volume('C', 'PATTERNS', 63, 262_080, 1),
    geometry: { cylinders: 1024, heads: 16, sectors: 63 },
    editable: true,
    only: true,
  }

  it('says what the files waste with its clusters and with the next larger ones', () => {
    const text = show(VolumeCard, { props }).text()
    expect(text).toContain('your files waste')
    expect(text).toContain('3.9 MiB')
    expect(text).toContain('with clusters of 8 KiB')
  })

  it('offers only the clusters that its size allows, and no removal of the only one', async () => {
    const w = show(VolumeCard, { props })
    await w.find('button').trigger('click')
    expect(w.findAll('option').map((o) => o.attributes('value'))).toEqual(['4096', '8192'].slice(0))
    expect(w.text()).not.toContain('Take this volume out')
    await w.find('input').setValue('LOOM')
    await w.find('select').setValue('8192')
    expect(w.emitted('rename')).toEqual([['LOOM']])
    expect(w.emitted('cluster')).toEqual([[8192]])
  })
})
