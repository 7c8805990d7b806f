import { onMounted, onUnmounted } from 'vue'

/** A key that does something, with the words that the list of keys shows. */
export interface Key {
  key: string
  says: string
  does: (e: KeyboardEvent) => void
}

const layers: Key[][] = []

/** All keys that do something at this moment. */
export function keysNow(): Key[] {
  return layers.flat()
}

/** Whether the person is typing, so that a letter is a letter. */
export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  return target.matches('input, textarea, select, [contenteditable]')
}

/** Handles one key press: the newest layer that knows the key has it. */
export function press(e: KeyboardEvent): void {
  if (e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target)) return
  for (let i = layers.length - 1; i >= 0; i--) {
    const hit = layers[i].find((k) => k.key === e.key || k.key === e.key.toUpperCase())
    if (!hit) continue
    e.preventDefault()
    hit.does(e)
    return
  }
}

/** Keys that work while a component is shown. */
export function useKeys(keys: Key[]): void {
  onMounted(() => {
    if (layers.length === 0) window.addEventListener('keydown', press)
    layers.push(keys)
  })
  onUnmounted(() => {
    layers.splice(layers.indexOf(keys), 1)
    if (layers.length === 0) window.removeEventListener('keydown', press)
  })
}
