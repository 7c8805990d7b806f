import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { answer, show } from '../test/page'
import CertificateLines from './CertificateLines.vue'
import WipeDialog from './WipeDialog.vue'

afterEach(() => (document.body.innerHTML = ''))

const check = {
  mediumId: 9,
  description: 'drive of the loom, 243 200 sectors, serial CK3-0417',
  confirmHint: 'the last four of its serial, as it is printed on the drive',
  letters: 4,
  refusals: [] as string[],
  unknown: '',
  warnings: ['25 sectors of it never came; after this nobody can try again.'],
  kept: ['Loom, as rescued'],
}

async function open(change: object = {}) {
  const asked = answer({
    'GET /api/media/9/wipe': { ...check, ...change },
    'POST /api/media/9/wipe': { id: 3, state: 'QUEUED' },
    'GET /api/runs/3': { id: 3, state: 'RUNNING', phase: 'overwriting', done: 1, total: 4 },
    'GET /api/certificates': [],
  })
  const w = show(WipeDialog, { props: { mediumId: 9, name: 'drive of the loom' } })
  await flushPromises()
  return { w, asked }
}
const page = () => document.body.textContent ?? ''
const button = () =>
  [...document.querySelectorAll('button')].find((b) => b.textContent?.trim() === 'Wipe it')

function type(label: string, text: string): void {
  const all = [...document.querySelectorAll('input')]
  const field = all.find(
    (i) =>
      i.getAttribute('aria-label') === label || i.closest('label')?.textContent?.includes(label),
  )
  if (!field) throw new Error(`no field ${label}`)
  field.value = text
  field.dispatchEvent(new Event('input'))
}

describe('wiping', () => {
  it('gives only the reasons where a medium may be the only copy', async () => {
    await open({ refusals: ['Its image is not proved yet.'] })
    expect(page()).toContain('✕ Its image is not proved yet.')
    expect(button()).toBeUndefined()
  })

  it('says what is kept and what should be thought of, and offers no copy of what is kept', async () => {
    await open()
    expect(page()).toContain('✓ On the shelf: Loom, as rescued')
    expect(page()).toContain('▲ 25 sectors of it never came')
    expect(page()).not.toContain('keep what is on it now')
  })

  it('asks for a word where no image is kept of what is on a card', async () => {
    const { asked } = await open({ kept: [], unknown: 'FAT16 CAMERA, 812 files' })
    expect(page()).toContain('The shed keeps no image of what is on it: FAT16 CAMERA, 812 files')
    type('Last four of the serial', '0417')
    await flushPromises()
    expect(button()?.disabled).toBe(true)
    const word = document.querySelector<HTMLInputElement>('input[type=checkbox]')
    word?.click()
    await flushPromises()
    expect(button()?.disabled).toBe(false)
    button()?.closest('form')?.dispatchEvent(new Event('submit'))
    await flushPromises()
    expect(asked.find((a) => a.what.startsWith('POST'))?.body).toMatchObject({
      nothingNeeded: true,
    })
  })

  it('offers a copy first where nothing is kept', async () => {
    await open({ kept: [] })
    expect(page()).toContain('keep what is on it now')
  })

  it('wipes only what was named by its last four, as it was wished', async () => {
    const { asked } = await open()
    expect(button()?.disabled).toBe(true)
    type('Last four of the serial', '04')
    await flushPromises()
    expect(button()?.disabled).toBe(true)
    type('Last four of the serial', '0417')
    type('Who wipes it', 'W. Reed')
    type('A sample', '')
    const sample = [...document.querySelectorAll('input[type=radio]')].find((i) =>
      i.closest('label')?.textContent?.includes('A sample'),
    ) as HTMLInputElement
    sample.click()
    await flushPromises()
    button()?.closest('form')?.dispatchEvent(new Event('submit'))
    await flushPromises()
    expect(asked.find((a) => a.what.startsWith('POST'))?.body).toEqual({
      confirm: '0417',
      school: 'NOISE',
      whole: false,
      by: 'W. Reed',
      nothingNeeded: false,
    })
    expect(page()).toContain('it is found under Media')
  })
})

describe('a certificate', () => {
  const certificate = {
    id: 2,
    mediumId: 9,
    medium: 'drive',
    serial: '',
    made: '2026-11-27T01:00:00Z',
    wiped: false,
    sentence: '12 sectors may still hold what was there.',
    sha256: 'cd'.repeat(32),
  }

  it('is never greener than what was read back', () => {
    const w = show(CertificateLines, { props: { certificate } })
    expect(w.get('[role=status]').text()).toMatch(/^▲ 12 sectors/)
    expect(w.get('[role=status]').classes()).toContain('text-brick')
    const good = show(CertificateLines, { props: { certificate: { ...certificate, wiped: true } } })
    expect(good.get('[role=status]').text()).toMatch(/^✓/)
  })

  it('goes out on both papers and as JSON', () => {
    const w = show(CertificateLines, { props: { certificate } })
    expect(w.findAll('a').map((a) => a.attributes('href'))).toEqual([
      '/api/certificates/2.pdf?paper=A4',
      '/api/certificates/2.pdf?paper=LETTER',
      '/api/certificates/2.json',
    ])
  })
})
