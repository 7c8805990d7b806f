<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { Upload } from 'tus-js-client'
import { ref } from 'vue'
import { api, ask, Problem, sentence } from '../api/client'
import Dialog from '../shed/Dialog.vue'
import ProgressBar from '../shed/ProgressBar.vue'
import ErrandLine from './ErrandLine.vue'
import { useErrand } from './useErrand'

/** Brings an image in by upload or from the incoming folder; it then stands for the drive it came from. */
const emit = defineEmits<{ close: []; brought: [id: number] }>()
const queries = useQueryClient()
const sent = ref(0)
const { errand, run, stop } = useErrand()
const incoming = useQuery({
  queryKey: ['incoming'],
  queryFn: () => ask(api.GET('/api/media/incoming')),
})
const halted = ref('')
let sending: Upload | null = null

/** Sends piece by piece (tus); what was cut off goes on where it stopped, after a reload as well. */
function send(file: File): Promise<number> {
  return new Promise((done, fail) => {
    halted.value = ''
    const up = new Upload(file, {
      endpoint: '/api/uploads',
      chunkSize: 8 << 20,
      retryDelays: [0, 1000, 3000, 5000, 10_000],
      metadata: { filename: file.name },
      removeFingerprintOnSuccess: true,
      onProgress: (now, all) => (sent.value = Math.floor((now / all) * 100)),
      onError: (e) =>
        fail(
          new Problem(
            `The transfer was cut off: ${e.message.split(',')[0]}. What came is kept; choose the same file and it goes on.`,
          ),
        ),
      onSuccess: () => {
        const upload = new URL(up.url ?? '', location.href).pathname
        run(ask(api.POST('/api/media/uploaded', { body: { upload } }))).then(done, fail)
      },
    })
    sending = up
    up.findPreviousUploads().then((before) => {
      if (before.length) up.resumeFromPreviousUpload(before[0])
      up.start()
    }, fail)
  })
}

function halt(): void {
  void sending?.abort()
  halted.value = `Halted at ${sent.value} %; what came is kept. Go on now, or choose the same file another day.`
}

function goOn(): void {
  halted.value = ''
  sending?.start()
}

const upload = useMutation({ mutationFn: send, onSuccess: finish })
const take = useMutation({
  mutationFn: (name: string) => run(ask(api.POST('/api/media/incoming', { body: { name } }))),
  onSuccess: finish,
})

function finish(id: number): void {
  void queries.invalidateQueries({ queryKey: ['media'] })
  emit('brought', id)
  emit('close')
}

function chosen(e: Event): void {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (file) upload.mutate(file)
}
</script>

<template>
  <Dialog title="Bring in an image" @close="emit('close')">
    <p>
      The image of a whole drive: raw, packed as gz, xz, bz2, lzma or a zip with one image, ATR,
      VHD, QCOW2, VDI, VMDK or VHDX, up to 64 GiB. It is told by its content; your own file stays as
      it is.
    </p>
    <ErrandLine v-if="errand" class="mt-4" :errand="errand" title="Taking it in" @stop="stop" />
    <template v-else-if="upload.isPending.value">
      <p class="figure mt-4 text-3xl font-bold" role="status">{{ sent }} %</p>
      <ProgressBar class="mt-2" :share="sent" title="Sending" />
      <p v-if="halted" class="mt-2" role="status">{{ halted }}</p>
      <button v-if="halted" type="button" class="next mt-3" @click="goOn">Go on</button>
      <button v-else type="button" class="plain mt-3" @click="halt">Halt</button>
    </template>
    <label v-else class="mt-4 block">
      <span class="head">From this computer</span>
      <input type="file" class="field mt-1" aria-label="Image file" @change="chosen" />
    </label>
    <h3 class="head mt-5">From the shelf’s incoming folder</h3>
    <p class="figure text-sm break-all text-slate">{{ incoming.data.value?.folder }}</p>
    <p v-if="!incoming.data.value?.names.length" class="text-slate">
      Nothing lies there. Put a file into that folder and open this again.
    </p>
    <ul class="mt-1">
      <li
        v-for="name in incoming.data.value?.names"
        :key="name"
        class="flex items-center justify-between py-1"
      >
        <span class="figure truncate">{{ name }}</span>
        <button
          type="button"
          class="plain"
          :disabled="take.isPending.value"
          @click="take.mutate(name)"
        >
          Take it
        </button>
      </li>
    </ul>
    <p v-if="upload.isError.value || take.isError.value" class="mt-3 text-brick" role="alert">
      ✕ {{ sentence(upload.error.value ?? take.error.value) }}
    </p>
  </Dialog>
</template>
