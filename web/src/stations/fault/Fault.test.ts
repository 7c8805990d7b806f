import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import type { Board, Schemas } from '../../api/client'
import { answer, job, show, station, sum } from '../../test/page'
import EvidenceBoard from './EvidenceBoard.vue'
import FaultStation from './FaultStation.vue'
import StartLogDialog from './StartLogDialog.vue'

afterEach(() => (document.body.innerHTML = ''))

function part(id: number, name: string, state = 'left', clearedBy: number[] = []) {
  const text = {
    name,
    kind: 'drive',
    group: '',
    fitted: true,
    minutes: 5,
    money: 0,
    risk: 0,
    suspicion: 'USUAL' as const,
    year: 0,
    megabytes: 0,
    tenthsOfVolt: 0,
  }
  const because = `${name} because.`
  return { id, version: 0, text, state: { id: String(id), state, share: 240, clearedBy, because } }
}

function trial(number: number, parts: number[], outcome: 'WORKS' | 'FAILS' | 'PARTLY') {
  const text = {
    title: `try ${number}`,
    parts,
    operation: 'lists',
    outcome,
    words: 'so',
    worked: 0,
    of: 0,
  }
  return { id: number, version: 0, number, text, author: 'a', at: '2026-11-25T00:00:00Z' }
}

const advice: Schemas['Advice'] = {
  title: 'Test 1 again, a known good drive in place of drive',
  parts: ['1'],
  operation: 'lists',
  cost: { minutes: 15, money: 0, risk: 1 },
  control: true,
  bits: 900,
  works: { share: 400, leaves: ['drive (0.90)'], then: '' },
  fails: { share: 600, leaves: ['board (0.80)'], then: 'measure it' },
  sum,
}

function board(change: Partial<Schemas['Reasoning']> = {}): Board {
  const reasoning: Schemas['Reasoning'] = {
    explanations: [
      {
        name: 'board × drive',
        causes: [{ name: 'board × drive', parts: ['1', '2'], group: '' }],
        share: 830,
        wanders: false,
        explains: [1],
        agrees: [2],
        sum,
      },
    ],
    others: 3,
    othersShare: 10,
    parts: [],
    doubt: undefined as never,
    offers: [],
    next: [advice],
    nextNote: '',
    verdict: {
      kind: 'open',
      leads: 'open',
      odds: 0,
      sentence: 'Not decided.',
      evidence: [],
      parts: [],
      remain: [],
      sum,
    },
    ...change,
  }
  return {
    parts: [part(1, 'board'), part(2, 'drive', 'pair', [2]), part(3, 'supply', 'aside')],
    trials: [trial(1, [1, 2], 'FAILS'), trial(2, [2], 'WORKS')],
    ideas: [],
    operations: ['lists', 'copies'],
    kinds: [],
    reasoning,
  }
}

describe('the evidence board', () => {
  it('shows outcome by mark and word, who is left and who was shown to work', () => {
    const w = show(EvidenceBoard, { props: { board: board(), asTable: false } })
    expect(w.text()).toContain('✕')
    expect(w.findAll('button').some((b) => /^1 try 1.*fails/s.test(b.text()))).toBe(true)
    expect(w.text()).toContain('.24')
    expect(w.text()).toContain('do not work together')
  })

  it('has a twin for readers with the same words', () => {
    const w = show(EvidenceBoard, { props: { board: board(), asTable: true } })
    expect(w.findAll('tbody tr')).toHaveLength(5)
    expect(w.text()).toContain('board, drive')
    expect(w.text()).toContain('supply because.')
  })

  it('stays one row a test with twenty parts and sixty tests', () => {
    const b = board()
    b.parts = Array.from({ length: 20 }, (_, i) => part(i + 1, `part number ${i + 1}`))
    b.trials = Array.from({ length: 60 }, (_, i) => trial(i + 1, [1, (i % 20) + 1], 'FAILS'))
    const w = show(EvidenceBoard, { props: { board: b, asTable: false } })
    expect(w.findAll('button').filter((b) => /^\d+ /.test(b.text()))).toHaveLength(60)
  })
})

describe('the fault station', () => {
  it('leads on to what its verdict asks for, and back where a proof failed', async () => {
    answer({ 'GET /api/jobs/7/fault': board() })
    const onward = async (kind: string, open: number) => {
      const j = job()
      j.verdict = { ...j.verdict, kind }
      j.stations = j.stations.map((s) => ({ ...s, state: s.number === open ? 'BRICK' : 'MOSS' }))
      const w = show(FaultStation, { props: { job: j, station: station(2, 'MOSS') } })
      await flushPromises()
      const next = w.find('a.next')
      return `${next.text()} ${next.attributes('href')}`
    }
    expect(await onward('storage', 3)).toBe('Rescue the medium /jobs/7/3')
    expect(await onward('other', 8)).toBe('Mend it /jobs/7/8')
    expect(await onward('storage', 9)).toBe('Back to Prove /jobs/7/9')
    expect(await onward('beside', 9)).toBe('Mended: prove it again /jobs/7/9')
  })

  it('offers the next test as the one thing to do and enters it with its parts', async () => {
    const asked = answer({
      'GET /api/jobs/7/fault': board(),
      'POST /api/jobs/7/fault/tests': board(),
    })
    const w = show(FaultStation, { props: { job: job(), station: station(2, 'LIT') } })
    await flushPromises()
    expect(w.findAll('.next')).toHaveLength(1)
    expect(w.text()).toContain('board (0.80)')
    expect(w.text()).toContain('and 3 less likely ones')
    await w.find('.next').trigger('click')
    await flushPromises()
    const dialog = document.querySelector('[role=dialog] form')!
    expect(dialog.querySelector('input')!.value).toBe(advice.title)
    expect(dialog.querySelector('[aria-pressed=true].border-current\\!')).toBeNull()
    dialog.dispatchEvent(new Event('submit'))
    await flushPromises()
    expect(asked.some((a) => a.what.startsWith('POST'))).toBe(false)
    const works = [...dialog.querySelectorAll('button')].find((x) => x.textContent!.includes('✓'))!
    works.click()
    await flushPromises()
    dialog.dispatchEvent(new Event('submit'))
    await flushPromises()
    const sent = asked.find((a) => a.what.startsWith('POST'))!.body as Schemas['NewTrial']
    expect(sent.text).toMatchObject({ parts: [1], operation: 'lists', outcome: 'WORKS' })
  })

  it('makes the verdict the next thing once the board has decided', async () => {
    const verdict = {
      kind: 'pair',
      leads: 'pair',
      odds: 950,
      sentence: 'These do not work together.',
      evidence: [],
      parts: ['1'],
      remain: ['1'],
      sum,
    }
    const asked = answer({
      'GET /api/jobs/7/fault': board({ verdict }),
      'POST /api/jobs/7/fault/verdict': board({ verdict }),
    })
    const w = show(FaultStation, { props: { job: job(), station: station(2, 'LIT') } })
    await flushPromises()
    expect(w.findAll('.next').map((x) => x.text())).toEqual(['Settle this verdict'])
    await w.find('.next').trigger('click')
    await flushPromises()
    expect(asked.some((a) => a.what === 'POST /api/jobs/7/fault/verdict')).toBe(true)
  })

  it('keeps the next test on top while no part is named, and offers to settle early', async () => {
    const open = {
      kind: 'open',
      leads: 'other',
      odds: 720,
      sentence: 'Not decided: that storage is not the fault leads with 0.72.',
      evidence: [],
      parts: [],
      remain: ['1', '2'],
      sum,
    }
    const asked = answer({
      'GET /api/jobs/7/fault': board({ verdict: open }),
      'POST /api/jobs/7/fault/verdict': board(),
      'POST /api/jobs/7/fault/tests': {
        ...board(),
        trials: [...board().trials, trial(3, [1], 'FAILS')],
      },
    })
    const w = show(FaultStation, { props: { job: job(), station: station(2, 'LIT') } })
    await flushPromises()
    expect(w.findAll('.next').map((x) => x.text())).toEqual(['Do this test'])
    const button = (text: string) => w.findAll('button').find((x) => x.text().includes(text))!
    await button('Settle early, at 0.72').trigger('click')
    await flushPromises()
    expect(asked.some((a) => a.what === 'POST /api/jobs/7/fault/verdict')).toBe(true)
    // A second press while the first is on its way is no second test.
    await button('it failed').trigger('click')
    await button('it worked').trigger('click')
    await flushPromises()
    expect(asked.filter((a) => a.what.endsWith('/tests'))).toHaveLength(1)
    const sent = asked.find((a) => a.what.endsWith('/tests'))!.body as Schemas['NewTrial']
    expect(sent.text).toMatchObject({ outcome: 'FAILS', parts: [1] })
    expect(w.text()).toContain('Test 3 is on the board: it failed.')
  })

  it('says what does not fit, and offers the group that the board found', async () => {
    const doubt = { trials: [1, 2], sentence: 'Tests 1, 2 do not fit the rest.' }
    const offers = [
      { group: 'storage newer than 1993', parts: ['1', '2'], share: 400, sentence: 'Is that it?' },
    ]
    const asked = answer({
      'GET /api/jobs/7/fault': board({ doubt, offers, next: [], nextNote: 'Name a spare.' }),
      'PUT /api/jobs/7/fault/parts/1': board(),
      'PUT /api/jobs/7/fault/parts/2': board(),
    })
    const w = show(FaultStation, { props: { job: job(), station: station(2, 'LIT') } })
    await flushPromises()
    expect(w.find('[role=alert]').text()).toContain('Tests 1, 2 do not fit')
    expect(w.text()).toContain('Name a spare.')
    await w
      .findAll('button')
      .find((x) => x.text().includes('name them as a group'))!
      .trigger('click')
    await flushPromises()
    expect(asked.filter((a) => a.what.startsWith('PUT'))).toHaveLength(2)
    expect(asked.at(-1)!.body).toMatchObject({ group: 'storage newer than 1993' })
  })

  it('brings back a test that was half typed', async () => {
    answer({ 'GET /api/jobs/7/fault': board() })
    const props = { job: job(), station: station(2, 'LIT') }
    const w = show(FaultStation, { props })
    await flushPromises()
    const open = (x: typeof w) =>
      x
        .findAll('button')
        .find((q) => q.text().startsWith('Test'))!
        .trigger('click')
    await open(w)
    await flushPromises()
    const title = document.querySelector<HTMLInputElement>('[role=dialog] input')!
    title.value = 'half a sen'
    title.dispatchEvent(new Event('input'))
    await flushPromises()
    w.unmount()
    const again = show(FaultStation, { props })
    await flushPromises()
    await open(again)
    await flushPromises()
    expect(document.querySelector<HTMLInputElement>('[role=dialog] input')!.value).toBe(
      'half a sen',
    )
    expect(document.querySelector('[role=dialog]')!.textContent).toContain('is here again')
    localStorage.clear()
  })
})

describe('a start-up log', () => {
  it('names the first cause above its lines', async () => {
    answer({
      'POST /api/start-logs': {
        format: 'f',
        cause: 'No card is found.',
        causeLine: 2,
        lines: [{ number: 1, text: 'card: none', level: 'cause', says: 'No card is found.' }],
      },
    })
    show(StartLogDialog)
    await flushPromises()
    const area = document.querySelector('textarea')!
    area.value = 'card: none'
    area.dispatchEvent(new Event('input'))
    await flushPromises()
    document.querySelector<HTMLButtonElement>('.next')!.click()
    await flushPromises()
    expect(document.querySelector('[role=status]')!.textContent).toContain('✕ No card is found.')
  })
})
