import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, show } from '../test/page'
import RehearsalPanel from './RehearsalPanel.vue'

afterEach(() => (document.body.innerHTML = ''))

const read = (lba: number, what: string, refused = false) => ({
  asked: `0/${lba}/1`,
  lba,
  sectors: 1,
  what,
  from: '0000:0662',
  refused,
})

async function open(change: object = {}) {
  answer({
    'GET /api/jobs/3/rehearsal': {
      run: {
        ending: 'MESSAGE',
        sentence: 'It stands still. Its screen says “System file not first in root”.',
        entered: '',
        screen: ['', 'System file not first in root'],
        reads: [read(63, 'boot sector'), read(120, 'root folder'), read(99, '', true)],
        count: 3,
        steps: 9118,
        ...change,
      },
      under: 'plain C/H/S: 1023 × 16 × 63',
      ifs: [{ what: 'processor', how: 'an 8086', starts: false, sentence: 'It needs an 80386.' }],
    },
  })
  const w = show(RehearsalPanel, { props: { job: 3, image: 9 } })
  await flushPromises()
  await flushPromises()
  return w
}

describe('the rehearsal of a start', () => {
  it('says how it ended, what the screen shows and where it read', async () => {
    const w = await open()
    expect(w.get('h2').text()).toBe('✕ Its loader is not entered')
    expect(w.get('pre').text()).toContain('System file not first in root')
    expect(w.text()).toContain('3 reads, 9 118 steps'.replace(' 118', '\u202f118'))
    expect(w.text()).toContain('✕ refused nothing that is known')
    expect(w.text()).toContain('an 8086')
  })

  it('goes through the reads by arrow keys, and not past the ends', async () => {
    const w = await open()
    const reads = w.get('[aria-label="Disk reads"]')
    const current = () => w.get('tr[aria-current]').text()
    expect(current()).toContain('99')
    await reads.trigger('keydown', { key: 'ArrowRight' })
    expect(current()).toContain('99')
    await reads.trigger('keydown', { key: 'Home' })
    await reads.trigger('keydown', { key: 'ArrowLeft' })
    expect(current()).toContain('boot sector')
    await reads.trigger('keydown', { key: 'ArrowDown' })
    expect(current()).toContain('root folder')
  })

  it('says plainly that a loader is entered', async () => {
    const w = await open({ ending: 'ENTERED', sentence: 'LOOMIO.SYS is entered.', screen: [] })
    expect(w.get('h2').text()).toBe('✓ Its loader is entered')
    expect(w.text()).toContain('its code writes no text before the loader')
  })
})
