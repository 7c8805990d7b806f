import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, show, sum } from '../test/page'
import RoadsCard from './RoadsCard.vue'

afterEach(() => (document.body.innerHTML = ''))

describe('roads and hours', () => {
  it('puts the shortest first with a mark, and asks anew when the set is another', async () => {
    const road = { note: '', because: sum }
    const asked = answer({
      'GET /api/reckoner/roads': {
        roads: [
          { ...road, name: 'the card', time: '15 min 01 s' },
          { ...road, name: 'serial line', time: '1 h 40 min' },
        ],
        protocols: [{ key: 'XMODEM_CRC', words: 'XMODEM with a CRC' }],
        floppies: [{ key: 'KB720', words: '720 KB' }],
      },
    })
    const w = show(RoadsCard)
    await flushPromises()
    expect(w.findAll('li').map((l) => l.text())).toEqual([
      expect.stringMatching(/✓ the card.*15 min 01 s/),
      expect.stringMatching(/^serial line.*1 h 40 min/),
    ])
    await w.find('input').setValue(7)
    await flushPromises()
    expect(asked).toHaveLength(2)
  })

  it('rehearses the line, and says why a file does not go through', async () => {
    const line = { millis: 0, blocks: 1, repeats: 10, fill: 0, log: ['block 1: short'] }
    answer({
      'GET /api/reckoner/roads': { roads: [], protocols: [], floppies: [] },
      'GET /api/reckoner/roads/rehearsal': {
        line: { ...line, whole: false, explains: 'Turn software flow control off.' },
        time: '1 min',
      },
    })
    const w = show(RoadsCard)
    await flushPromises()
    await w.find('form').trigger('submit')
    await flushPromises()
    expect(w.find('[role=status]').text()).toContain('✕ Turn software flow control off.')
    expect(w.find('[role=status]').text()).toContain('block 1: short')
    // What was rehearsed was another line.
    await w.find('form select').setValue('SEVEN_BITS')
    expect(w.find('[role=status]').exists()).toBe(false)
  })

  it('says what to type at both ends once it is asked', async () => {
    const asked = answer({
      'GET /api/reckoner/roads': { roads: [], protocols: [], floppies: [] },
      'GET /api/reckoner/roads/steps': {
        ends: [
          { key: 'dos', words: 'a PC with DOS' },
          { key: 'other', words: 'another machine' },
        ],
        steps: [{ there: true, does: 'Set COM1.', types: 'MODE COM1:9600,N,8,1' }],
      },
    })
    const w = show(RoadsCard)
    await flushPromises()
    const details = w.find('details')
    ;(details.element as HTMLDetailsElement).open = true
    await details.trigger('toggle')
    await flushPromises()
    expect(details.text()).toMatch(/at the machine\s*Set COM1\.\s*MODE COM1:9600,N,8,1/)
    await details.find('select').setValue('other')
    await flushPromises()
    expect(asked.filter((a) => a.what.startsWith('GET /api/reckoner/roads/steps'))).toHaveLength(2)
    expect(details.find('a').attributes('href')).toContain('end=other')
  })

  it('says what a refusal says', async () => {
    answer({
      'GET /api/reckoner/roads': { status: 422, detail: 'Between one file and a million.' },
    })
    const w = show(RoadsCard)
    await flushPromises()
    expect(w.find('[role=alert]').text()).toContain('Between one file')
  })
})
