import { computed, ref } from 'vue'
import type { FromDesktop } from './dropped'

/** Sends files one after the other and says how far it is; what was sent before a halt is kept. */
export function useSending(put: (file: FromDesktop) => Promise<unknown>) {
  const sent = ref({ files: 0, of: 0, bytes: 0, ofBytes: 0, name: '' })
  let halted = false
  const share = computed(() =>
    sent.value.ofBytes ? Math.floor((sent.value.bytes / sent.value.ofBytes) * 100) : 100,
  )

  async function send(files: FromDesktop[]): Promise<void> {
    halted = false
    const ofBytes = files.reduce((n, f) => n + f.file.size, 0)
    sent.value = { files: 0, of: files.length, bytes: 0, ofBytes, name: '' }
    for (const f of files) {
      if (halted) return
      sent.value.name = f.path
      await put(f)
      sent.value.files++
      sent.value.bytes += f.file.size
    }
  }

  function halt(): void {
    halted = true
  }

  return { sent, share, send, halt }
}

export type Sent = ReturnType<typeof useSending>['sent']['value']
