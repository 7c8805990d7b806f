import { StorageSerializers, useLocalStorage } from '@vueuse/core'
import { toValue, type MaybeRefOrGetter } from 'vue'
import type { PlanChoice } from '../api/client'

/** A layout of a job that was moved and not settled: it outlives Escape, leaving and a reload. */
export function planDraft(job: MaybeRefOrGetter<number>) {
  return useLocalStorage<PlanChoice | null>(() => `shed plan ${toValue(job)}`, null, {
    serializer: StorageSerializers.object,
  })
}
