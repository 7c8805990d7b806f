import { defineStore } from 'pinia'
import { ref } from 'vue'

/** The last thing that was taken away, and the way back; shown in the frame until the next one. */
export const useUndo = defineStore('undo', () => {
  const text = ref('')
  let way: (() => Promise<unknown>) | null = null
  function offer(what: string, back: () => Promise<unknown>): void {
    text.value = what
    way = back
  }
  async function back(): Promise<void> {
    const go = way
    drop()
    await go?.()
  }
  function drop(): void {
    text.value = ''
    way = null
  }
  return { text, offer, back, drop }
})
