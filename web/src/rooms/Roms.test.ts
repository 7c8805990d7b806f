import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import CompareCard from '../rom/CompareCard.vue'
import ForMachine from '../rom/ForMachine.vue'
import MemoryMap from '../rom/MemoryMap.vue'
import ReadBackCard from '../rom/ReadBackCard.vue'
import RomColumn from '../rom/RomColumn.vue'
import RomHex from '../rom/RomHex.vue'
import RunCard from '../rom/RunCard.vue'
import type { PlaceChange } from '../rom/useRoms'
import { answer, show, sum } from '../test/page'
import RomsRoom from './RomsRoom.vue'

afterEach(() => (document.body.innerHTML = ''))

const rom: Schemas['RomView'] = {
  id: 3,
  version: 0,
  chips: [64, 128],
  name: 'mill.bin',
  note: '',
  drives: 0,
  madeFrom: '',
  at: '2026-11-27T06:00:00Z',
  facts: {
    bytes: 8192,
    kilobits: 64,
    option: { length: 6144, sum: 2, entry: 'jumps to 0018', last: 0x8f, right: 0x8d },
    stretches: [
      { kind: 'USED', start: 0, length: 6144 },
      { kind: 'FF', start: 6144, length: 2048 },
    ],
    texts: [{ at: 5, text: 'Mill ROM 1.3', telling: true }],
    fields: [
      { at: 0, length: 2, name: 'the mark 55 AA' },
      { at: 6143, length: 1, name: 'the byte that makes the sum right' },
    ],
    sha256: 'ab',
    crc32: 'CD',
    findings: [
      { rule: 'O-1', weight: 'WRONG', where: '', what: 'The sum of', todo: '', because: sum },
    ],
  },
  place: {
    occupied: [{ name: 'memory frame', start: 0xd0000, length: 0x10000 }],
    carrier: 'board',
    window: 0xe0000,
  },
  windows: [
    { start: 0xd0000, length: 0x2000, with: 'memory frame' },
    { start: 0xe0000, length: 0x2000, with: '' },
  ],
  conflict: '',
  jumpers: { start: 'E0000', print: ['J1', 'J2'], tested: ['J1', 'J3'] },
  readings: [],
  job: { id: 0, machine: '', serves: true, sentence: '' },
}
const board = {
  key: 'board',
  name: 'bare board',
  kilobits: [64],
  facts: 'Faces the rear.',
  jumpers: ['J1', 'J2', 'J3'],
  windows: [
    { start: 'D0000', print: [], tested: [] },
    { start: 'E0000', print: ['J1', 'J2'], tested: ['J1', 'J3'] },
  ],
}

describe('the ROM bench', () => {
  it('draws the chip with a table beside it that says the same', () => {
    const w = show(RomColumn, { props: { rom } })
    const rows = w.findAll('tr').map((r) => r.text())
    expect(rows).toEqual(
      expect.arrayContaining([
        expect.stringMatching(/0000.*in use.*6.144 B/),
        expect.stringMatching(/1800.*blank, FF.*2.048 B/),
        expect.stringMatching(/17FF.*last byte 8F → 8D: sum 00/),
      ]),
    )
    expect(w.find('svg').attributes('aria-label')).toContain('“Mill ROM 1.3”')
  })

  it('sets the tested jumpers, names the wrong print, and asks for another window', async () => {
    answer({ 'GET /api/roms/carriers': [board] })
    const w = show(MemoryMap, { props: { rom, error: null } })
    await flushPromises()
    expect(w.text()).toContain('▲ the print says J1 J2')
    expect(w.text()).toContain('✓ tested: J1 J3')
    expect(w.text()).toContain('✓ E0000 to E1FFF is free.')
    expect(w.findAll('option').map((o) => o.text())).toContain('D0000 ✕ memory frame')
    await w.find('select').setValue(String(0xd0000))
    const change = w.emitted('place')?.[0]?.[0] as PlaceChange
    expect(change(rom.place)).toEqual({ window: 0xd0000 })
  })

  it('says what a stand-in reads, and that it is none', async () => {
    const r: Schemas['ReadBack'] = {
      pattern: 'STUCK_BIT',
      differing: 3072,
      first: 1,
      differences: [{ at: 0x200, is: 0x4d, should: 0x45 }],
      sentence: 'Data line D3 at 1 is stuck.',
      todo: 'Reseat the chip.',
      also: [],
      out: 10,
    }
    const asked = answer({ 'POST /api/roms/3/stand-in': r })
    const w = show(ReadBackCard, { props: { rom } })
    await w.findAll('button').at(-1)?.trigger('click')
    await flushPromises()
    expect(asked[0].body).toEqual({ trouble: 'STUCK' })
    expect(w.text()).toMatch(/a stand-in.*✕ 3072 bytes differ.*0200.*is 4D.*should 45/)
    expect(w.text()).toContain('10 other patterns ruled out')
  })

  it('shows what it printed and which processor it needs', async () => {
    answer({
      'GET /api/roms/3/run': {
        returned: true,
        needs: 'I80386',
        why: 'The code at E000:0041 needs an 80386.',
        sentence: 'It comes back.',
        screen: ['Mill ROM 1.3'],
        hooks: [{ vector: 0x13, name: 'disk', segment: 0xe000, offset: 65 }],
        asked: [],
        steps: 180,
        code: {
          instructions: 412,
          bytes: 1200,
          needs: 'I80386',
          beyond: [{ at: 0x41, needs: 'I80386', code: '6631C0' }],
          unseen: 2,
          astray: 0,
        },
      },
    })
    const w = show(RunCard, { props: { rom } })
    await flushPromises()
    expect(w.find('pre').text()).toBe('Mill ROM 1.3')
    expect(w.text()).toMatch(/INT 13h.*disk.*▲ needs an 80386 or later/)
    expect(w.text()).toMatch(/✓ 412 instructions can be reached.*0041 6631C0.*2 jumps or calls/)
  })

  it('shows its bytes with the names of those that have one', async () => {
    const b = new Uint8Array(8192)
    b.set([0x55, 0xaa, 0x0c])
    vi.stubGlobal('fetch', () => Promise.resolve(new Response(b)))
    const w = show(RomHex, { props: { rom } })
    ;(w.element as HTMLDetailsElement).open = true
    await w.trigger('toggle')
    await flushPromises()
    expect(w.text()).toContain('000055AA0C')
    expect(w.find('[title="the mark 55 AA"]').text()).toBe('55')
    await w
      .findAll('li button')
      .find((x) => x.text().includes('makes the sum right'))!
      .trigger('click')
    expect(w.text()).toContain('17F0')
    await w.find('[role=region]').trigger('keydown', { key: 'Home' })
    expect(w.text()).toContain('000055AA')
    vi.unstubAllGlobals()
  })

  it('says that its bytes could not be read', async () => {
    vi.stubGlobal('fetch', () => Promise.resolve(new Response('', { status: 503 })))
    const w = show(RomHex, { props: { rom: { ...rom, id: 4 } } })
    ;(w.element as HTMLDetailsElement).open = true
    await w.trigger('toggle')
    await flushPromises()
    expect(w.find('[role=alert]').text()).toContain('The bytes could not be read')
    vi.unstubAllGlobals()
  })

  it('puts the smallest build that a processor serves on top', async () => {
    const row = { size: '', what: 'option ROM', fault: '', madeFrom: '', drives: 0 }
    answer({
      'GET /api/roms': [
        { ...row, id: 1, name: 'late', bytes: 100, needs: 'I80386' },
        { ...row, id: 2, name: 'large', bytes: 300, needs: 'I8086' },
        { ...row, id: 3, name: 'small', bytes: 200, needs: 'I80186' },
      ],
    })
    const w = show(RomsRoom)
    await flushPromises()
    await w.find('select').setValue('I80186')
    expect(w.findAll('tbody a').map((a) => a.text())).toEqual(['small', 'large', 'late'])
    expect(w.text()).toMatch(/✓ the smallest that serves.*late.*✕ has instructions that it lacks/)
  })

  it('holds builds against the number of drives as well', async () => {
    const row = { size: '', what: 'option ROM', fault: '', madeFrom: '', needs: 'I8086' }
    answer({
      'GET /api/roms': [
        { ...row, id: 1, name: 'two', bytes: 200, drives: 2 },
        { ...row, id: 2, name: 'one', bytes: 100, drives: 1 },
        { ...row, id: 3, name: 'unsaid', bytes: 50, drives: 0 },
        { ...row, id: 4, name: 'four', bytes: 400, drives: 4 },
      ],
    })
    const w = show(RomsRoom)
    await flushPromises()
    const names = () => w.findAll('tbody a').map((a) => a.text())
    await w.findAll('select')[1].setValue(2)
    expect(names()).toEqual(['two', 'four', 'one', 'unsaid'])
    expect(w.text()).toMatch(/two.*✓ the smallest that serves.*one.*✕ serves fewer drives/)
    expect(w.text()).toMatch(/unsaid.*○ how many drives it serves is not said/)
    expect(w.text()).not.toMatch(/unsaid.*✓/)
    await w.findAll('select')[1].setValue(0)
    await w.findAll('select')[0].setValue('I8086')
    expect(names()[0]).toBe('unsaid')
  })

  it('shows what configuring changed, and whether the machine serves', async () => {
    answer({
      'GET /api/roms': [{ id: 8, name: 'set.bin', bytes: 1, needs: '', fault: '', madeFrom: '' }],
      'GET /api/roms/3/against/8': {
        bytes: 1,
        places: [{ at: 0x200, length: 1, before: '00', after: '09', means: 'settings or code' }],
        more: 0,
        sentence: '1 byte differs in 1 place.',
      },
      'GET /api/jobs': { total: 1, waiting: [], rows: [{ id: 4, machine: 'Larkspur' }] },
    })
    const w = show(CompareCard, { props: { rom } })
    await flushPromises()
    await w.find('select').setValue(8)
    await flushPromises()
    expect(w.text()).toMatch(/1 byte differs in 1 place.*0200.*00.*→ 09.*settings or code/)
    const job = { id: 4, machine: 'Larkspur', serves: false, sentence: 'It has an 8086.' }
    const m = show(ForMachine, { props: { rom: { ...rom, job } } })
    await flushPromises()
    expect(m.text()).toContain('✕ It has an 8086.')
    await m.find('select').setValue(0)
    expect(m.emitted('job')?.[0]).toEqual([0])
  })

  it('joins the picked ones in the order in which they were picked', async () => {
    const row = {
      size: '1.0 KiB',
      bytes: 1024,
      what: 'no option ROM',
      fault: '',
      madeFrom: '',
      needs: '',
    }
    const asked = answer({
      'GET /api/roms': [
        { ...row, id: 1, name: 'even' },
        { ...row, id: 2, name: 'odd' },
      ],
      'POST /api/roms/joined': { id: 9, sentence: 'the mark 55 AA in this order.' },
    })
    const w = show(RomsRoom)
    await flushPromises()
    await w.find('[aria-label="Join odd"]').trigger('change')
    await w.find('[aria-label="Join even"]').trigger('change')
    await w.find('button.next').trigger('click')
    await flushPromises()
    expect(asked.find((a) => a.what.startsWith('POST'))?.body).toEqual({ ids: [2, 1] })
    expect(w.text()).toContain('the mark 55 AA in this order.')
  })
})
