import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, show, sum } from '../test/page'
import MediaRoom from './MediaRoom.vue'

afterEach(() => (document.body.innerHTML = ''))

const card = {
  id: 4,
  name: 'mill-3',
  kind: 'card',
  serial: 'SMCF-0003',
  sectors: 125440,
  measured: true,
  size: '61.2 MiB',
  label: '64 MB',
  sizeBecause: sum,
  standIn: true,
  card: true,
  node: '',
  remark: '',
  overwritten: false,
  holdsImage: 0,
  own: '',
  joint: 'sd',
}
const drive = { ...card, id: 5, name: 'old drive', kind: 'drive', card: false, joint: '' }
const kinds = [
  { key: 'cf50', name: 'CF card' },
  { key: 'sd', name: 'SD card' },
]

async function open(list: object[], more: Record<string, unknown> = {}) {
  const asked = answer({
    'GET /api/media': list,
    'GET /api/restores': [],
    'GET /api/media/devices': [],
    'GET /api/drawer/cards': kinds,
    ...more,
  })
  const w = show(MediaRoom)
  await flushPromises()
  await flushPromises()
  return { w, asked }
}

describe('the room of media', () => {
  it('groups what is there, and says where a kind has none', async () => {
    const { w } = await open([card, drive])
    expect(w.findAll('h2').map((h) => h.text().split(/  +|;/)[0])).toEqual([
      expect.stringContaining('Old drives'),
      expect.stringContaining('Images brought in'),
      expect.stringContaining('Cards in the drawer'),
    ])
    const sheets = w.findAll('.sheet')
    expect(sheets[0].text()).toContain('old drive')
    expect(sheets[1].text()).toContain('None yet.')
    expect(sheets[2].text()).toContain('✓ as it answers')
    expect(sheets[0].text()).not.toContain('put an image on it')
  })

  it('says what a card is made for, and keeps what is chosen', async () => {
    const { w, asked } = await open([card, drive], { 'PUT /api/media/4/joint': card })
    expect(w.findAll('select')).toHaveLength(1)
    const kind = w.get<HTMLSelectElement>('select[aria-label="What mill-3 is made for"]')
    expect(kind.element.selectedOptions[0].text).toBe('SD card')
    await kind.setValue('cf50')
    await flushPromises()
    expect(asked.filter((a) => a.what.startsWith('PUT')).map((a) => a.body)).toEqual([
      { joint: 'cf50' },
    ])
    expect(w.find('[role="alert"]').exists()).toBe(false)
  })

  it('goes back to what was there where a choice is not taken', async () => {
    const { w } = await open([card], {
      'PUT /api/media/4/joint': { status: 409, detail: 'A work is in hand on it.' },
    })
    const kind = w.get<HTMLSelectElement>('select[aria-label="What mill-3 is made for"]')
    await kind.setValue('cf50')
    await flushPromises()
    expect(w.get('[role="alert"]').text()).toContain('A work is in hand on it.')
    expect(kind.element.value).toBe('sd')
  })

  it('says why where nothing can be listed', async () => {
    const { w } = await open([], { 'GET /api/media': { status: 503, detail: 'It starts.' } })
    expect(w.get('[role="alert"]').text()).toContain('It starts.')
  })
})
