<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { api, ask, Problem, sentence, type Medium } from '../api/client'
import Dialog from '../shed/Dialog.vue'

/** Brings an image in by upload or from the incoming folder; it then stands for the drive it came from. */
const emit = defineEmits<{ close: []; brought: [id: number] }>()
const queries = useQueryClient()
const sent = ref(0)
const incoming = useQuery({
  queryKey: ['incoming'],
  queryFn: () => ask(api.GET('/api/media/incoming')),
})
let request: XMLHttpRequest | null = null

function send(file: File): Promise<Medium> {
  // fetch tells nothing of how far an upload is; this does.
  return new Promise((done, fail) => {
    const r = new XMLHttpRequest()
    request = r
    r.open('POST', `/api/media/upload?name=${encodeURIComponent(file.name)}`)
    r.setRequestHeader('Content-Type', 'application/octet-stream')
    r.upload.onprogress = (e) => (sent.value = Math.floor((e.loaded / e.total) * 100))
    r.onload = () => {
      const answer = JSON.parse(r.responseText || '{}')
      if (r.status === 201) done(answer as Medium)
      else fail(new Problem(answer.detail ?? `The shed answered ${r.status}.`))
    }
    r.onerror = () =>
      fail(new Problem('The transfer was cut off; nothing of it was kept. Send it again.'))
    r.onabort = () => fail(new Problem('You stopped the transfer; nothing of it was kept.'))
    r.send(file)
  })
}

const upload = useMutation({ mutationFn: send, onSuccess: finish })
const take = useMutation({
  mutationFn: (name: string) => ask(api.POST('/api/media/incoming', { body: { name } })),
  onSuccess: finish,
})

function finish(m: Medium): void {
  void queries.invalidateQueries({ queryKey: ['media'] })
  emit('brought', m.id)
  emit('close')
}

function chosen(e: Event): void {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (file) upload.mutate(file)
}
</script>

<template>
  <Dialog title="Bring in an image" @close="emit('close')">
    <p>A raw image of a whole drive, or one packed with gzip. Your own file stays as it is.</p>
    <template v-if="upload.isPending.value">
      <p class="figure mt-4 text-3xl font-bold" role="status">{{ sent }} %</p>
      <div class="mt-2 h-3 rounded border border-rule">
        <div class="h-full bg-lampfill" :style="{ width: `${sent}%` }" />
      </div>
      <button type="button" class="plain mt-3" @click="request?.abort()">Stop</button>
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
