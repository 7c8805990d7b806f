import type { QueryClient } from '@tanstack/vue-query'
import { reactive, ref } from 'vue'
import type { Work } from './client'

/** Work as the events tell it, by id: newer than what was asked for. */
export const liveWork = reactive(new Map<number, Work>())

/** Whether the shed answers. */
export const connected = ref(true)

/** Hears the server's events; the browser itself connects again when they are cut off. */
export function listen(queries: QueryClient): void {
  if (typeof EventSource === 'undefined') return
  const events = new EventSource('/api/events')
  let wasCut = false
  events.onopen = () => {
    connected.value = true
    if (wasCut) void queries.invalidateQueries()
    wasCut = false
  }
  events.onerror = () => {
    connected.value = false
    wasCut = true
  }
  events.addEventListener('work', (e) => {
    const work = JSON.parse(e.data) as Work
    const before = liveWork.get(work.id)
    liveWork.set(work.id, work)
    // Progress changes nothing that was asked for; another state does.
    if (before?.state !== work.state) void staleJob(queries, work.jobId)
  })
  events.addEventListener('job', (e) => {
    void staleJob(queries, (JSON.parse(e.data) as { id: number }).id)
  })
  events.addEventListener('demo', (e) => {
    queries.setQueryData(['demo'], JSON.parse(e.data))
    for (const key of LISTS) void queries.invalidateQueries({ queryKey: [key] })
  })
  events.addEventListener('errand', () => {
    for (const key of ['images', 'media']) void queries.invalidateQueries({ queryKey: [key] })
  })
}

/** What hangs on one job; nothing else is asked for again. */
const OF_JOB = [
  'job',
  'plan',
  'proof',
  'prediction',
  'shown',
  'timings',
  'map',
  'write-check',
  'fault',
  'files',
  'log',
  'pictures',
]

/** The lists that show jobs, and the work that is in hand. */
const LISTS = ['jobs', 'media', 'images', 'work', 'restores']

/** What hangs on a job is asked for again; settles when it has come. */
export function staleJob(queries: QueryClient, job: number): Promise<unknown> {
  return Promise.all([
    ...OF_JOB.map((key) => queries.invalidateQueries({ queryKey: [key, job] })),
    ...LISTS.map((key) => queries.invalidateQueries({ queryKey: [key] })),
  ])
}
