import { defineStore } from 'pinia'
import { onUnmounted, ref } from 'vue'

export interface Crumb {
  text: string
  to: string
}

/** Where the person is, and the job and station that the logbook line writes into. */
export const useCrumbs = defineStore('crumbs', () => {
  const trail = ref<Crumb[] | null>(null)
  const job = ref<{ id: number; name: string; station: number; stationName: string } | null>(null)
  return { trail, job }
})

let owner = 0
let latest = 0

/**
 * Shows where this screen is until it goes. The next one comes before this has gone, so it takes
 * only its own trail along.
 */
export function useTrail(): (trail: Crumb[]) => void {
  const crumbs = useCrumbs()
  const me = ++latest
  onUnmounted(() => {
    if (owner === me) crumbs.trail = null
  })
  return (trail) => {
    owner = me
    crumbs.trail = trail
  }
}
