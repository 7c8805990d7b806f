import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, show } from '../test/page'
import BySerial from './BySerial.vue'
import ReadersSheet from './ReadersSheet.vue'

afterEach(() => (document.body.innerHTML = ''))

const node = {
  node: '/dev/sdz',
  says: 'Reader, USB, 61.2 MiB',
  sectors: 125440,
  size: '61.2 MiB',
  refusals: [] as string[],
}

describe('what is plugged in', () => {
  it('says what is there, what is on it, and why nothing is written to it', async () => {
    const asked = answer({
      'GET /api/media/devices': [
        node,
        { ...node, node: '/dev/sdy', refusals: ['/dev/sdy is mounted at /mnt; release it first.'] },
        { ...node, node: '/dev/sdx', sectors: 0, says: 'nothing is in it' },
      ],
      'GET /api/media/devices/look': { text: 'FAT16 CAMERA, 812 files' },
      'POST /api/media/devices': { id: 4 },
    })
    const w = show(ReadersSheet, { props: { taken: [] } })
    await flushPromises()
    const rows = w.findAll('li')
    const button = (i: number, words: string) =>
      rows[i].findAll('button').find((b) => b.text() === words)!
    // Nothing is read before somebody asks.
    expect(asked.map((a) => a.what)).toEqual(['GET /api/media/devices'])
    await button(0, 'what is on it?').trigger('click')
    await flushPromises()
    expect(rows[0].text()).toContain('on it: FAT16 CAMERA, 812 files')
    expect(rows[1].text()).toContain('✕ not written: /dev/sdy is mounted at /mnt')
    expect(button(1, 'Take it as a card').attributes('disabled')).toBeDefined()
    expect(button(1, 'As an old drive').attributes('disabled')).toBeUndefined()
    expect(rows[2].findAll('button')).toHaveLength(0)
    await button(0, 'Take it as a card').trigger('click')
    await flushPromises()
    expect(asked.find((a) => a.what.startsWith('POST'))?.body).toEqual({
      node: '/dev/sdz',
      name: 'card in sdz',
      card: true,
    })
    w.unmount()
  })

  it('says by which name it is taken already, and how a reader is opened to the shed', async () => {
    answer({ 'GET /api/media/devices': [node] })
    const taken = [{ node: '/dev/sdz', sectors: 125440, name: 'mill-4' }]
    const w = show(ReadersSheet, { props: { taken } })
    await flushPromises()
    expect(w.text()).toContain('✓ taken as mill-4')
    w.unmount()
    answer({ 'GET /api/media/devices': [] })
    const none = show(ReadersSheet, { props: { taken: [] } })
    await flushPromises()
    expect(none.text()).toContain('./shed reader removable')
    none.unmount()
  })

  it('asks for what is on a card without a serial', () => {
    const w = show(BySerial, {
      props: { mediumId: 1, hint: 'what is on it now', letters: 0, modelValue: '' },
    })
    expect(w.get('input').attributes('maxlength')).toBe('40')
    expect(w.get('input').attributes('aria-label')).toBe('What is on it now')
    expect(w.text()).toContain('Type what is on it now')
  })
})
