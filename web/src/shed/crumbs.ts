import { defineStore } from 'pinia'
import { ref } from 'vue'

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
