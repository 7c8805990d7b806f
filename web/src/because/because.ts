import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { Sum } from '../api/client'

/** The one drawer in which a figure says why. */
export const useBecause = defineStore('because', () => {
  const sum = shallowRef<Sum | null>(null)
  const figure = ref('')
  let from: HTMLElement | null = null

  function open(what: Sum, text: string): void {
    from = document.activeElement instanceof HTMLElement ? document.activeElement : null
    sum.value = what
    figure.value = text
  }

  /** Closes and gives the focus back to the figure that was asked. */
  function close(): void {
    sum.value = null
    from?.focus()
  }
  return { sum, figure, open, close }
})
