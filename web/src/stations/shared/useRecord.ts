import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { useDebounceFn } from '@vueuse/core'
import { onScopeDispose, reactive, ref, watch } from 'vue'
import {
  api,
  ask,
  Away,
  Problem,
  sentence,
  type Job,
  type Station,
  type StationRecord,
} from '../../api/client'
import { staleJob } from '../../api/live'
import { merge, same } from './mergeRecord'

/** How soon it is tried again whether the shed answers. */
const AGAIN_MS = 3000

/**
 * What is written by hand at a station: edited here, kept on the server, never lost on a refusal.
 * Where the shed does not answer it waits in the browser, over a reload too, and goes over once.
 */
export function useRecord(job: () => Job, station: () => Station) {
  const record = reactive<StationRecord>(copy(station().record))
  const dirty = ref(false)
  const queries = useQueryClient()
  // Counts what the person changed, at once: what is changed while a save is on its way is not saved by it.
  let edits = 0
  let quiet = false
  // What was there before anything here was changed: what others did meanwhile is told from it.
  let base = copy(station().record)
  const waits = ref(false)
  watch(
    record,
    () => {
      if (quiet) return
      edits++
      dirty.value = true
      if (waits.value) stash(wanted)
      // What is changed has not been refused yet.
      if (save.isError.value) save.reset()
    },
    { flush: 'sync' },
  )
  watch(
    () => station().record,
    (newer) => {
      // Somebody else's words come in only while nothing of one's own waits to be kept.
      if (!dirty.value) take(newer)
    },
  )
  function take(newer: StationRecord): void {
    base = copy(newer)
    quietly(() => Object.assign(record, copy(newer)))
  }
  function quietly(what: () => void): void {
    quiet = true
    what()
    quiet = false
  }

  // One after the other, each on what the one before left: a quick hand is not somebody else.
  let left = 0
  const save = useMutation({
    scope: { id: 'record' },
    // The browser's own opinion of the network says nothing of a shed beside it.
    networkMode: 'always',
    mutationFn: async (done: boolean) => {
      try {
        if (waits.value && (await isThere(done))) return
        const at = edits
        const sent = copy(record)
        const now = await ask(
          api.PUT('/api/jobs/{id}/stations/{number}', {
            params: { path: { id: job().id, number: station().number } },
            body: { version: Math.max(job().version, left), record: sent, done },
          }),
        )
        left = now.version
        arrived(sent, edits === at)
      } catch (e) {
        // Somebody was faster between looking and sending: that is looked at again.
        const overtaken = waits.value && e instanceof Problem && e.status === 409
        if (e instanceof Away || overtaken) wait(done)
        else waits.value = false
        throw e
      }
    },
    onSettled: () => (waits.value ? undefined : staleJob(queries, job().id)),
  })

  function arrived(there: StationRecord, all: boolean): void {
    base = copy(there)
    if (all) dirty.value = false
    waits.value = false
    put(null)
  }

  // ---- while the shed does not answer ------------------------------------------------------------

  // With the machine: another shed at the same address may have another job of that number.
  const place = `waits ${job().id} ${job().machine} ${station().number}`
  let wanted = false
  let timer = 0
  let here = true
  function stash(done: boolean): void {
    put(JSON.stringify({ base, mine: record, done }))
  }
  function put(text: string | null): void {
    try {
      if (text === null) localStorage.removeItem(place)
      else localStorage.setItem(place, text)
    } catch {
      // A browser that keeps nothing: it waits in the page alone.
    }
  }
  function wait(done: boolean): void {
    waits.value = true
    wanted = done
    stash(done)
    window.clearTimeout(timer)
    if (here) timer = window.setTimeout(() => save.mutate(wanted), AGAIN_MS)
  }

  /**
   * What became of the last try nobody knows, and others may have written: what lies there now is
   * put together with what waits. True where nothing is left to send.
   */
  async function isThere(done: boolean): Promise<boolean> {
    const now = await ask(api.GET('/api/jobs/{id}', { params: { path: { id: job().id } } }))
    const there = now.stations.find((s) => s.number === station().number)
    if (!there) return false
    quietly(() => Object.assign(record, merge(base, copy(record), there.record)))
    base = copy(there.record)
    left = now.version
    if (!same(record, there.record) || (done && there.state !== 'MOSS')) return false
    arrived(there.record, true)
    return true
  }
  onScopeDispose(() => {
    here = false
    window.clearTimeout(timer)
  })

  /** What waited when the page was left comes back, and goes over. */
  function resume(): void {
    try {
      const kept = localStorage.getItem(place)
      if (!kept) return
      const was = JSON.parse(kept) as { base: StationRecord; mine: StationRecord; done: boolean }
      base = was.base
      Object.assign(record, was.mine)
      waits.value = true
      save.mutate(was.done)
    } catch {
      put(null)
    }
  }
  resume()

  // What is found is kept soon, so that the answers to it come and a reload loses nothing; never
  // while a save is on its way, which may be the one that settles the station, and never over a
  // refusal that nobody has answered yet.
  const keep = useDebounceFn((): void => {
    if (save.isPending.value) void keep()
    else if (dirty.value && !save.isError.value && station().state !== 'MOSS') save.mutate(false)
  }, 500)

  function tick(index: number) {
    const known = record.ticks.find((x) => x.index === index)
    if (known) return known
    // A point that was never touched is no change of the person's.
    quietly(() => record.ticks.push({ index, done: false, reading: '', choice: '' }))
    return record.ticks[record.ticks.length - 1]
  }

  function seen(key: string) {
    const known = record.shown.find((x) => x.key === key)
    if (known) return known
    quietly(() => record.shown.push({ key, text: '', unseen: false, explained: '' }))
    return record.shown[record.shown.length - 1]
  }

  return {
    record,
    dirty,
    save,
    keep,
    tick,
    seen,
    waits,
    problem: () => (save.isError.value ? sentence(save.error.value) : ''),
  }
}

function copy(r: StationRecord): StationRecord {
  return JSON.parse(JSON.stringify(r)) as StationRecord
}
