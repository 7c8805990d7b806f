import { StorageSerializers, useLocalStorage } from '@vueuse/core'
import type { PlanChoice } from '../api/client'

/** A layout of a job that was moved and not settled: it outlives Escape, leaving and a reload. */
export function planDraft(job: number) {
  return useLocalStorage<PlanChoice | null>(`shed plan ${job}`, null, {
    serializer: StorageSerializers.object,
  })
}
