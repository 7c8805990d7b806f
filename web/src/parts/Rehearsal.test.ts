import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, show, sum } from '../test/page'
import RehearsalPanel from './RehearsalPanel.vue'

afterEach(() => (document.body.innerHTML = ''))

const read = (lba: number, what: string, refused = false) => ({
  asked: `0/${lba}/1`,
  lba,
  sectors: 1,
  what,
  from: '0000:0662',
  refused,
  second: false,
})

const run = {
  ending: 'MESSAGE',
  sentence: 'It stands still. Its screen says “System file not first in root”.',
  entered: '',
  screen: ['', 'System file not first in root'],
  reads: [
    read(63, 'boot sector'),
    read(120, 'root folder'),
    read(121, 'root folder'),
    read(9, '', true),
  ],
  count: 4,
  steps: 9118,
}
const links = [
  { rule: 'B-1', name: 'Mark 55 AA', verdict: 'HOLDS', evidence: '', mend: '', because: sum },
]
const ifs = [
  {
    kind: 'PROCESSOR',
    what: 'processor',
    how: 'an 8086',
    wish: { level: 'I8086', heads: null },
    ending: 'FAULT',
    sentence: 'It needs an 80386.',
  },
]

async function open(change: object | null = {}) {
  const asked = answer({
    'GET /api/jobs/3/rehearsal': {
      run: change && { ...run, ...change },
      links,
      under: 'plain C/H/S: 1023 × 16 × 63',
      shown: { cylinders: 1023, heads: 16, sectors: 63 },
      level: 'I80386',
      calls: false,
      firmwares: [{ key: 'own', name: 'its own' }],
      parts: [{ start: 63, length: 5000, name: 'MILL' }],
      ifs: change ? ifs : [],
    },
    'GET /api/images': [],
  })
  const w = show(RehearsalPanel, { props: { job: 3, image: 9 } })
  await flushPromises()
  await flushPromises()
  return { w, asked }
}

describe('the rehearsal of a start', () => {
  it('tells what was not followed apart from a start and from a failure', async () => {
    const { w } = await open({ ending: 'NOT_FOLLOWED', sentence: 'It leaves real mode.' })
    expect(w.get('h2').text()).toBe('▲ Followed so far, not further')
    expect(w.get('h2').classes()).toContain('text-lamp')
    expect(w.text()).toContain('✕ does not')
  })

  it('says how it ended, by its links, what the screen shows and where it read', async () => {
    const { w } = await open()
    expect(w.get('h2').text()).toBe('✕ Its loader is not entered')
    expect(w.text()).toContain('Mark 55 AA')
    expect(w.get('pre').text()).toContain('System file not first in root')
    expect(w.text()).toContain('4 reads, 9 118 steps'.replace(' 118', '\u202f118'))
    expect(w.text()).toContain('✕ refused: nothing known')
    expect(w.text()).toContain('an 8086')
  })

  it('goes through the reads by arrow keys, and not past the ends', async () => {
    const { w } = await open()
    const reads = w.get('[aria-label="Disk reads"]')
    const current = () => w.get('tr[aria-current]').text()
    const peg = () => w.get('button[aria-current]').text()
    expect(current()).toContain('refused')
    await reads.trigger('keydown', { key: 'ArrowRight' })
    expect(current()).toContain('refused')
    await reads.trigger('keydown', { key: 'Home' })
    await reads.trigger('keydown', { key: 'ArrowLeft' })
    expect(current()).toContain('boot sector')
    await reads.trigger('keydown', { key: 'ArrowDown' })
    expect(current()).toContain('0/120/1')
    expect(peg()).toBe('2–3root folder')
    await reads.trigger('keydown', { key: 'ArrowRight' })
    expect(current()).toContain('0/121/1')
    expect(peg()).toBe('2–3root folder')
  })

  it('says plainly that a loader is entered', async () => {
    const { w } = await open({ ending: 'ENTERED', sentence: 'LOOMIO.SYS is entered.', screen: [] })
    expect(w.get('h2').text()).toBe('✓ Its loader is entered')
    expect(w.text()).toContain('Nothing yet')
  })

  it('runs again with what is changed, says that it was changed, and goes back', async () => {
    const { w, asked } = await open()
    const runs = () => asked.filter((a) => a.what.endsWith('/rehearsal')).length
    expect(runs()).toBe(1)
    await w.get('ul li button').trigger('click')
    await flushPromises()
    await flushPromises()
    expect(runs()).toBe(2)
    expect(w.get('ul li button').attributes('aria-pressed')).toBe('true')
    expect(w.text()).toContain('▲ with what was changed here')
    await w
      .findAll('button')
      .find((b) => b.text() === 'back to how it is')!
      .trigger('click')
    await flushPromises()
    expect(w.text()).not.toContain('with what was changed')
    await w
      .findAll('button')
      .find((b) => b.text() === 'set it yourself')!
      .trigger('click')
    const before = runs()
    await w.get('input[placeholder="63"]').setValue(17)
    await w.get('input[placeholder="63"]').trigger('change')
    await flushPromises()
    await flushPromises()
    expect(runs()).toBe(before + 1)
  })

  it('shows the ladder alone where the code of a family is not run', async () => {
    const { w } = await open(null)
    expect(w.get('h2').text()).toBe('○ No link of its start breaks')
    expect(w.text()).toContain('is not run here')
    expect(w.find('pre').exists()).toBe(false)
  })
})
