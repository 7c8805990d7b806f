import { onUnmounted, ref } from 'vue'
import { api, ask, Problem, type Errand } from '../api/client'

const LOOKS = [100, 200, 400, 800]

/** An errand of the server: begun, watched until it ends, stopped. It goes on when nobody watches. */
export function useErrand() {
  const errand = ref<Errand | null>(null)
  let gone = false
  let latest = 0
  onUnmounted(() => (gone = true))

  /** Waits for its end and gives the number of what it made; throws its sentence when it failed. */
  async function run(begun: Promise<Errand>): Promise<number> {
    const mine = ++latest
    const tell = (e: Errand | null) => {
      if (mine === latest) errand.value = e
    }
    let now = await begun
    tell(now)
    for (let look = 0; now.state === 'RUNNING'; look++) {
      await new Promise((r) => setTimeout(r, LOOKS[Math.min(look, LOOKS.length - 1)]))
      if (gone) throw new Problem('Nobody watches any more.')
      now = await ask(api.GET('/api/errands/{id}', { params: { path: { id: now.id } } }))
      tell(now)
    }
    tell(null)
    if (now.state === 'STOPPED') throw new Problem('Stopped, as asked. Nothing half made was kept.')
    if (now.state === 'FAILED') throw new Problem(now.sentence)
    return now.made
  }

  function stop(): void {
    if (errand.value) {
      void ask(api.DELETE('/api/errands/{id}', { params: { path: { id: errand.value.id } } }))
    }
  }

  return { errand, run, stop }
}
