import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { reactive, ref, watch } from 'vue'
import { api, ask, sentence, type Job, type Station, type StationRecord } from '../../api/client'

/** What is written by hand at a station: edited here, kept on the server, never lost on a refusal. */
export function useRecord(job: () => Job, station: () => Station) {
  const record = reactive<StationRecord>(copy(station().record))
  const dirty = ref(false)
  const queries = useQueryClient()
  let quiet = false
  watch(record, () => {
    if (!quiet) dirty.value = true
  })
  watch(
    () => station().record,
    (newer) => {
      // Somebody else's words come in only while nothing of one's own waits to be kept.
      if (dirty.value) return
      quiet = true
      Object.assign(record, copy(newer))
      setTimeout(() => (quiet = false))
    },
  )

  const save = useMutation({
    mutationFn: (done: boolean) =>
      ask(
        api.PUT('/api/jobs/{id}/stations/{number}', {
          params: { path: { id: job().id, number: station().number } },
          body: { version: job().version, record: copy(record), done },
        }),
      ),
    onSuccess: () => {
      dirty.value = false
    },
    onSettled: () => queries.invalidateQueries(),
  })

  function tick(index: number) {
    let t = record.ticks.find((x) => x.index === index)
    if (!t) {
      t = { index, done: false, reading: '' }
      record.ticks.push(t)
      t = record.ticks[record.ticks.length - 1]
    }
    return t
  }

  return {
    record,
    dirty,
    save,
    tick,
    problem: () => (save.isError.value ? sentence(save.error.value) : ''),
  }
}

function copy(r: StationRecord): StationRecord {
  return JSON.parse(JSON.stringify(r)) as StationRecord
}
