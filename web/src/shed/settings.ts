import { defineStore } from 'pinia'
import { ref, watchEffect } from 'vue'

export type Look = 'system' | 'day' | 'night'

/** What a person set on this computer: their name in the logbook, and day or night. */
export const useSettings = defineStore('settings', () => {
  const author = ref(localStorage.getItem('shed.author') ?? '')
  const look = ref<Look>((localStorage.getItem('shed.look') as Look | null) ?? 'system')
  const system = window.matchMedia?.('(prefers-color-scheme: dark)')
  const dark = ref(system?.matches ?? false)
  system?.addEventListener?.('change', (e) => (dark.value = e.matches))

  watchEffect(() => {
    localStorage.setItem('shed.author', author.value)
    localStorage.setItem('shed.look', look.value)
    const night = look.value === 'night' || (look.value === 'system' && dark.value)
    document.documentElement.dataset.look = night ? 'night' : 'day'
  })

  function turn(): void {
    const night = document.documentElement.dataset.look === 'night'
    look.value = night ? 'day' : 'night'
  }
  return { author, look, turn }
})
