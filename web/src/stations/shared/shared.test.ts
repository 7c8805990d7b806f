import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, h, type PropType, reactive } from 'vue'
import type { Job, Schemas, Work } from '../../api/client'
import { liveWork } from '../../api/live'
import { answer, job, show, station, step, sum } from '../../test/page'
import { answerWith } from '../../test/setup'
import BenchCard from './BenchCard.vue'
import ChainList from '../../parts/ChainList.vue'
import CheckList from './CheckList.vue'
import GateLine from './GateLine.vue'
import FindingList from './FindingList.vue'
import { merge, same } from './mergeRecord'
import { useRecord } from './useRecord'
import WorkPanel from '../../parts/WorkPanel.vue'

afterEach(() => {
  document.body.innerHTML = ''
  liveWork.clear()
  vi.useRealTimers()
  localStorage.clear()
})

const problem = (status: number, detail: string) =>
  new Response(JSON.stringify({ detail }), {
    status,
    headers: { 'Content-Type': 'application/json' },
  })

const steps: Schemas['Step'][] = [
  step('Unplug it.', { caution: 'Charge stays.', reading: '' }),
  step('Measure the rails.', { caution: '', reading: '5 V and 12 V rails' }),
  step('Listen.', { caution: '', reading: '' }),
]

function ticks() {
  const all = reactive(steps.map((_, index) => ({ index, done: false, reading: '', choice: '' })))
  return { all, tick: (i: number) => all[i] }
}

describe('a check list', () => {
  it('ticks, takes readings, and shows a caution only where there is one', async () => {
    const { all, tick } = ticks()
    const w = show(CheckList, { props: { steps, tick } })
    expect(w.findAll('p.text-brick')).toHaveLength(1)
    expect(w.findAll('input:not([type=checkbox])')).toHaveLength(1)
    await w.find('#step-2').setValue(true)
    await w.find('input[aria-label="5 V and 12 V rails"]').setValue('5.04 V')
    expect(all[2].done).toBe(true)
    expect(all[1].reading).toBe('5.04 V')
  })
})

describe('the bench card', () => {
  const press = async (key: string) => {
    window.dispatchEvent(new KeyboardEvent('keydown', { key }))
    await flushPromises()
  }

  it('goes on with Space, back with Backspace, and closes after the last step', async () => {
    const { all, tick } = ticks()
    const w = show(BenchCard, { props: { title: 'Inspection', steps, tick } })
    await flushPromises()
    expect(document.body.textContent).toContain('Inspection · 1 of 3')
    expect(document.body.textContent).toContain('Charge stays.')
    await press(' ')
    expect(document.body.textContent).toContain('Measure the rails.')
    await press('Backspace')
    expect(document.body.textContent).toContain('Unplug it.')
    await press(' ')
    all[1].reading = '5.02 V'
    await press(' ')
    await press(' ')
    expect(all.every((t) => t.done)).toBe(true)
    expect(w.emitted('close')).toHaveLength(1)
    w.unmount()
  })

  it('ticks nothing that asks for a reading and has none, unless something was found', async () => {
    const { all, tick } = ticks()
    const w = show(BenchCard, { props: { title: 'Inspection', steps, tick } })
    await press(' ')
    expect(document.body.textContent).toContain('Not read, go on')
    await press(' ')
    expect(document.body.textContent).toContain('Listen.')
    expect(all.map((t) => t.done)).toEqual([true, false, false])
    await press('Backspace')
    all[1].choice = 'no rail'
    await press(' ')
    expect(all[1].done).toBe(true)
    w.unmount()
  })

  it('begins where the work was left', async () => {
    const { all, tick } = ticks()
    all[0].done = true
    all[1].done = true
    const w = show(BenchCard, { props: { title: 'Fit', steps, tick } })
    await flushPromises()
    expect(document.body.textContent).toContain('Fit · 3 of 3')
    w.unmount()
  })
})

describe('lists of verdicts', () => {
  it('say findings by their weight in words', () => {
    const finding = {
      rule: 'F-9',
      where: 'FAT 1',
      what: 'The two FATs differ.',
      todo: 'Read both.',
      because: sum,
    }
    const w = show(FindingList, {
      props: {
        findings: [
          { ...finding, weight: 'STOPS' },
          { ...finding, weight: 'NOTE' },
        ],
      },
    })
    expect(w.text()).toContain('✕ stops')
    expect(w.text()).toContain('· note')
    expect(w.text()).toContain('→ Read both.')
    expect(show(FindingList, { props: { findings: [] } }).text()).toContain('Nothing is wrong')
  })

  it('say every link of a chain with its evidence and mend', () => {
    const link = {
      rule: 'B-1',
      name: 'Mark 55 AA',
      evidence: 'sector 0 ends in 00 00',
      because: sum,
    }
    const w = show(ChainList, {
      props: {
        links: [
          { ...link, verdict: 'BREAKS', mend: 'Write it again.' },
          { ...link, rule: 'B-2', verdict: 'HOLDS', mend: '' },
          { ...link, rule: 'B-3', verdict: 'UNSEEN', mend: '' },
        ],
      },
    })
    expect(w.findAll('li').map((l) => l.text().replace(/\s+/g, ' '))[0]).toContain('breaks')
    expect(w.text()).toContain('→ Write it again.')
    expect(w.text()).toContain('not reached')
  })
})

describe('long work', () => {
  const work: Work = {
    id: 5,
    jobId: 7,
    mediumId: 0,
    kind: 'RESCUE',
    state: 'RUNNING',
    phase: 'reading forward',
    done: 25,
    total: 100,
    doneText: '25.0 MiB of 100.0 MiB',
    rateText: '1.0 MiB/s',
    leftText: '1 min 15 s left',
    message: '',
  }

  it('says what, how far, how fast and how long, and can be paused', async () => {
    const asked = answer({
      'GET /api/runs/5': work,
      'POST /api/runs/5/pause': { ...work, state: 'PAUSED' },
    })
    const w = show(WorkPanel, { props: { workId: 5, title: 'Rescue', paused: 'Go on' } })
    await flushPromises()
    for (const words of ['reading forward', '25.0 %', '25.0 MiB of', '1.0 MiB/s', '1 min 15 s']) {
      expect(w.text()).toContain(words)
    }
    expect(w.find('[role=progressbar]').attributes('aria-valuenow')).toBe('25')
    await w
      .findAll('button')
      .find((b) => b.text() === 'Pause')
      ?.trigger('click')
    await flushPromises()
    expect(asked.map((a) => a.what)).toContain('POST /api/runs/5/pause')
  })

  it('follows the events, and goes on when it was paused', async () => {
    const asked = answer({ 'GET /api/runs/5': work, 'POST /api/runs/5/resume': work })
    const w = show(WorkPanel, { props: { workId: 5, title: 'Rescue', paused: 'Go on' } })
    liveWork.set(5, { ...work, state: 'PAUSED', message: 'It goes on where it stood.' })
    await flushPromises()
    expect(w.text()).toContain('‖ paused')
    expect(w.text()).toContain('It goes on where it stood.')
    await w.find('button.next').trigger('click')
    await flushPromises()
    expect(asked.map((a) => a.what)).toContain('POST /api/runs/5/resume')
  })
})

describe('what is written by hand', () => {
  function record(at: Job) {
    let use!: ReturnType<typeof useRecord>
    const w = show(
      defineComponent({
        props: { job: { type: Object as PropType<Job>, required: true } },
        setup(props) {
          use = useRecord(
            () => props.job,
            () => props.job.stations[0],
          )
          return () => h('p')
        },
      }),
      { props: { job: at } },
    )
    return { w, use: () => use }
  }

  it('is saved one after the other, each on what the one before left', async () => {
    let version = 3
    const asked = answer({
      'PUT /api/jobs/7/stations/1': () => job({ version: ++version }),
    })
    const { use } = record(job())
    use().tick(0).done = true
    use().save.mutate(false)
    use().tick(1).done = true
    use().save.mutate(false)
    await flushPromises()
    await flushPromises()
    const bodies = asked.map((a) => a.body as { version: number; record: { ticks: unknown[] } })
    expect(bodies.map((b) => b.version)).toEqual([3, 4])
    expect(bodies[1].record.ticks).toHaveLength(2)
    expect(use().dirty.value).toBe(false)
  })

  it('stays when somebody else was faster, with the sentence why', async () => {
    answer({
      'PUT /api/jobs/7/stations/1': { status: 409, detail: 'Somebody else changed this job.' },
    })
    const { w, use } = record(job())
    use().record.notes = 'mine'
    use().save.mutate(true)
    await flushPromises()
    expect(use().problem()).toBe('Somebody else changed this job.')
    const theirs = job({ version: 9 })
    theirs.stations[0].record = {
      notes: 'theirs',
      choice: '',
      ticks: [],
      symptoms: [],
      has: {},
      shown: [],
    }
    await w.setProps({ job: theirs } as never)
    expect(use().record.notes).toBe('mine')
    expect(use().dirty.value).toBe(true)
  })

  it('takes in what others wrote while nothing of one’s own waits', async () => {
    const { w, use } = record(job())
    expect(use().tick(2).done).toBe(false)
    expect(use().dirty.value).toBe(false)
    const theirs = job({ version: 4 })
    theirs.stations[0].record = {
      notes: 'theirs',
      choice: '',
      ticks: [],
      symptoms: [],
      has: {},
      shown: [],
    }
    await w.setProps({ job: theirs } as never)
    expect(use().record.notes).toBe('theirs')
  })

  /** A shed that cannot be reached, which is put in reach again; the tries are made at once. */
  function away(there: Job) {
    vi.useFakeTimers()
    let reach = false
    let lost = false
    let faster = 0
    const puts: { version: number; done: boolean; record: Job['stations'][0]['record'] }[] = []
    answerWith(async (request) => {
      if (!reach) throw new TypeError('no network')
      if (request.method === 'PUT') {
        const body = (await request.json()) as (typeof puts)[0]
        puts.push(body)
        if (faster-- > 0) there.version++
        if (body.version !== there.version) return problem(409, 'Somebody else changed this job.')
        there.stations[0].record = body.record
        there.stations[0].state = body.done ? 'MOSS' : 'LIT'
        there.version++
        if (lost) throw new TypeError('cut off')
      }
      return new Response(JSON.stringify(there))
    })
    const again = async () => {
      await vi.advanceTimersByTimeAsync(3_100)
      await vi.advanceTimersByTimeAsync(100)
    }
    return {
      puts,
      again,
      reach: (now: boolean) => (reach = now),
      overtake: (times: number) => (faster = times),
      loseAnswers: (now: boolean) => (lost = now),
    }
  }

  it('waits where the shed does not answer, and goes over once when it does', async () => {
    const there = job({ version: 3 })
    const shed = away(there)
    const { use } = record(job())
    use().tick(1).done = true
    use().save.mutate(false)
    await shed.again()
    expect(use().waits.value).toBe(true)
    use().tick(2).reading = '5.02 V'
    use().save.mutate(true)
    await shed.again()
    expect(shed.puts).toHaveLength(0)
    // Somebody else had the same list meanwhile.
    there.version = 8
    there.stations[0].record.ticks.push({ index: 0, done: true, reading: '', choice: '' })
    there.stations[0].record.notes = 'screws in the lid'
    shed.reach(true)
    await shed.again()
    await shed.again()
    expect(shed.puts).toHaveLength(1)
    expect(shed.puts[0]).toMatchObject({ version: 8, done: true })
    expect(there.stations[0].record.ticks.map((t) => [t.index, t.done, t.reading])).toEqual([
      [0, true, ''],
      [1, true, ''],
      [2, false, '5.02 V'],
    ])
    expect(there.stations[0].record.notes).toBe('screws in the lid')
    expect(use().waits.value).toBe(false)
    expect(use().dirty.value).toBe(false)
    expect(localStorage.length).toBe(0)
  })

  it('looks again where somebody is faster between looking and sending', async () => {
    const there = job({ version: 3 })
    const shed = away(there)
    const { use } = record(job())
    use().tick(1).done = true
    use().save.mutate(false)
    await shed.again()
    shed.reach(true)
    shed.overtake(1)
    await shed.again()
    expect(use().waits.value).toBe(true)
    await shed.again()
    expect(shed.puts).toHaveLength(2)
    expect(there.stations[0].record.ticks.map((t) => t.index)).toEqual([1])
    expect(use().waits.value).toBe(false)
    expect(use().problem()).toBe('')
  })

  it('is not sent twice where only the answer was lost', async () => {
    const there = job({ version: 3 })
    const shed = away(there)
    shed.reach(true)
    shed.loseAnswers(true)
    const { use } = record(job())
    use().tick(1).done = true
    use().save.mutate(false)
    await shed.again()
    shed.loseAnswers(false)
    await shed.again()
    expect(shed.puts).toHaveLength(1)
    expect(use().waits.value).toBe(false)
    expect(use().problem()).toBe('')
  })

  it('comes back after a reload and goes over then', async () => {
    const there = job({ version: 3 })
    const shed = away(there)
    const first = record(job())
    first.use().record.notes = 'cell is flat'
    first.use().save.mutate(false)
    await shed.again()
    first.w.unmount()
    shed.reach(true)
    const { use } = record(job())
    expect(use().record.notes).toBe('cell is flat')
    await shed.again()
    expect(there.stations[0].record.notes).toBe('cell is flat')
    expect(shed.puts).toHaveLength(1)
    expect(use().waits.value).toBe(false)
  })
})

describe('what holds the power', () => {
  it('is said again where a step would put it on, with the way to it', () => {
    const held = job({ gate: 'No power yet: open is point 2.' })
    const w = show(GateLine, { props: { job: held } })
    expect(w.get('[role=alert]').text()).toContain('▲ No power yet: open is point 2.')
    expect(w.get('a').attributes('href')).toBe('/jobs/7/1')
    expect(
      show(GateLine, { props: { job: job() } })
        .find('[role=alert]')
        .exists(),
    ).toBe(false)
  })

  it('stands on the bench card too, and so does what waits for the shed', async () => {
    const { tick } = ticks()
    const props = { title: 'Fit', steps, tick, gate: 'No power yet.', waits: true }
    const w = show(BenchCard, { props })
    await flushPromises()
    expect(document.body.textContent).toContain('▲ No power yet.')
    expect(document.body.textContent).toContain('The shed does not answer.')
    w.unmount()
  })
})

describe('two hands on one record', () => {
  const empty = station(1).record
  const point = (index: number, reading: string) => ({ index, done: true, reading, choice: '' })

  it('keeps what each of them changed, point by point', () => {
    const base = { ...empty, symptoms: ['a', 'b'], ticks: [point(0, ''), point(1, 'x')] }
    const mine = { ...base, symptoms: ['b'], ticks: [point(0, '5 V'), point(1, 'x')] }
    const theirs = { ...base, symptoms: ['a', 'b', 'c'], ticks: [point(0, ''), point(1, 'y')] }
    const now = merge(base, mine, theirs)
    expect(now.symptoms).toEqual(['b', 'c'])
    expect(now.ticks).toEqual([point(0, '5 V'), point(1, 'y')])
    expect(same(now, merge(base, theirs, mine))).toBe(true)
  })

  it('loses no reading of the other where both only ticked one point', () => {
    const bare = { ...point(0, ''), choice: '' }
    const mine = { ...empty, ticks: [bare] }
    const theirs = { ...empty, ticks: [{ ...point(0, '5.0 V'), choice: 'dry' }] }
    const now = merge(empty, mine, theirs)
    expect(now.ticks).toEqual([{ index: 0, done: true, reading: '5.0 V', choice: 'dry' }])
    expect(merge(empty, theirs, mine).ticks).toEqual(now.ticks)
    // Taken out on purpose is taken out.
    expect(merge(theirs, mine, theirs).ticks).toEqual([bare])
  })

  it('keeps the notes of both, and of one point the later word', () => {
    const mine = { ...empty, notes: 'mine', ticks: [point(0, '5.1 V')], has: { ram: 4 } }
    const theirs = { ...empty, notes: 'theirs', ticks: [point(0, '5.0 V')], has: { slots: 2 } }
    const now = merge(empty, mine, theirs)
    expect(now.notes).toBe('theirs\nmine')
    expect(now.ticks).toEqual([point(0, '5.1 V')])
    expect(now.has).toEqual({ ram: 4, slots: 2 })
    // What has been put together once is put together with itself again.
    expect(merge(theirs, now, now).notes).toBe('theirs\nmine')
  })
})
