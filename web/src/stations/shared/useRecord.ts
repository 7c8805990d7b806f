import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { useDebounceFn } from '@vueuse/core'
import { reactive, ref, watch } from 'vue'
import { api, ask, sentence, type Job, type Station, type StationRecord } from '../../api/client'
import { staleJob } from '../../api/live'

/** What is written by hand at a station: edited here, kept on the server, never lost on a refusal. */
export function useRecord(job: () => Job, station: () => Station) {
  const record = reactive<StationRecord>(copy(station().record))
  const dirty = ref(false)
  const queries = useQueryClient()
  // Counts what the person changed, at once: what is changed while a save is on its way is not saved by it.
  let edits = 0
  let quiet = false
  watch(
    record,
    () => {
      if (quiet) return
      edits++
      dirty.value = true
      // What is changed has not been refused yet.
      if (save.isError.value) save.reset()
    },
    { flush: 'sync' },
  )
  watch(
    () => station().record,
    (newer) => {
      // Somebody else's words come in only while nothing of one's own waits to be kept.
      if (!dirty.value) quietly(() => Object.assign(record, copy(newer)))
    },
  )
  function quietly(what: () => void): void {
    quiet = true
    what()
    quiet = false
  }

  // One after the other, each on what the one before left: a quick hand is not somebody else.
  let left = 0
  const save = useMutation({
    scope: { id: 'record' },
    mutationFn: async (done: boolean) => {
      const at = edits
      const now = await ask(
        api.PUT('/api/jobs/{id}/stations/{number}', {
          params: { path: { id: job().id, number: station().number } },
          body: { version: Math.max(job().version, left), record: copy(record), done },
        }),
      )
      left = now.version
      if (edits === at) dirty.value = false
      return now
    },
    onSettled: () => staleJob(queries, job().id),
  })

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
    problem: () => (save.isError.value ? sentence(save.error.value) : ''),
  }
}

function copy(r: StationRecord): StationRecord {
  return JSON.parse(JSON.stringify(r)) as StationRecord
}
