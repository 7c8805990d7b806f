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
    if (before?.state !== work.state) void queries.invalidateQueries()
  })
  events.addEventListener('errand', () => void queries.invalidateQueries())
  events.addEventListener('job', () => void queries.invalidateQueries())
}
