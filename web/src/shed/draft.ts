import { useLocalStorage } from '@vueuse/core'
import type { RemovableRef } from '@vueuse/core'

/**
 * Something half typed that outlives Escape, leaving the screen and a reload. It is kept in this browser only, until
 * `forget` says that it was saved or is not wanted any more.
 */
export function useDraft<T extends object>(key: string, fresh: () => T): Draft<T> {
  const text: RemovableRef<T> = useLocalStorage<T>(`shed draft ${key}`, fresh(), {
    mergeDefaults: true,
    writeDefaults: false,
  })
  const kept = localStorage.getItem(`shed draft ${key}`) !== null
  return { text, kept, forget: () => (text.value = null as never) }
}

export interface Draft<T> {
  text: RemovableRef<T>
  /** Whether it was there already when the screen came up. */
  kept: boolean
  forget: () => void
}
