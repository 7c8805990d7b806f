import { onBeforeMount, onUnmounted } from 'vue'

/** A key that does something, with the words that the list of keys shows. */
export interface Key {
  key: string
  says: string
  /** Whether it does something at this moment; always, where not given. */
  when?: () => boolean
  does: (e: KeyboardEvent) => void
}

interface Layer {
  keys: Key[]
  /** Whether the layers below are out of reach, as behind a dialog. */
  wall: boolean
}

const layers: Layer[] = []

/** All keys that do something at this moment, the outermost layer's first. */
export function keysNow(): Key[] {
  return layers
    .slice(
      Math.max(
        0,
        layers.findLastIndex((l) => l.wall),
      ),
    )
    .flatMap((l) => l.keys)
    .filter((k) => k.when?.() ?? true)
}

/** Whether the person is typing, so that a letter is a letter. */
export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  return target.matches('input, textarea, select, [contenteditable]')
}

/** Handles one key press: the innermost layer that knows the key has it. */
export function press(e: KeyboardEvent): void {
  if (e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target)) return
  const hit = keysNow().findLast((k) => k.key === e.key || k.key === e.key.toUpperCase())
  if (!hit) return
  e.preventDefault()
  hit.does(e)
}

function useLayer(layer: Layer): void {
  // Before the children's, so that what lies inside comes later and is asked first.
  onBeforeMount(() => {
    if (layers.length === 0) window.addEventListener('keydown', press)
    layers.push(layer)
  })
  onUnmounted(() => {
    layers.splice(layers.indexOf(layer), 1)
    if (layers.length === 0) window.removeEventListener('keydown', press)
  })
}

/** Keys that work while a component is shown. */
export function useKeys(keys: Key[]): void {
  useLayer({ keys, wall: false })
}

/** While a component is shown, the keys of what lies behind it do nothing. */
export function useKeyWall(): void {
  useLayer({ keys: [], wall: true })
}
