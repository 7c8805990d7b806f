<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, Problem, sentence, type Picture } from '../api/client'
import Dialog from '../shed/Dialog.vue'
import FastenerMap from './FastenerMap.vue'
import { usePictures } from './usePictures'

/** Pictures of one place of a job: looked at, added, taken away and brought back. */
const props = defineProps<{ job: number; place: string; title: string }>()
const emit = defineEmits<{ close: [] }>()
const queries = useQueryClient()
const picturesOf = usePictures(() => props.job)
const here = computed(() => picturesOf(props.place))
const marking = ref<Picture | null>(null)
const gone = ref<number | null>(null)
const again = () => queries.invalidateQueries({ queryKey: ['pictures', props.job] })

const add = useMutation({
  mutationFn: async (file: File) => {
    const query = new URLSearchParams({ place: props.place, name: file.name })
    const r = await fetch(
      new Request(`/api/jobs/${props.job}/pictures?${query}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/octet-stream' },
        body: file,
      }),
    )
    const answer = (await r.json()) as { detail?: string }
    if (!r.ok) throw new Problem(answer.detail ?? `The shed answered ${r.status}.`)
    return answer as Picture
  },
  onSettled: again,
})
const remove = useMutation({
  mutationFn: (p: { id: number; undo: boolean }) =>
    ask(
      api.DELETE('/api/pictures/{id}', { params: { path: { id: p.id }, query: { undo: p.undo } } }),
    ),
  onSuccess: (_, p) => (gone.value = p.undo ? null : p.id),
  onSettled: again,
})

function chosen(e: Event): void {
  for (const file of (e.target as HTMLInputElement).files ?? []) add.mutate(file)
}
</script>

<template>
  <Dialog :title="title" @close="emit('close')">
    <FastenerMap
      v-if="marking"
      :picture="marking"
      @done="((marking = null), again())"
      @cancel="marking = null"
    />
    <template v-else>
      <p v-if="!here.length" class="text-slate">
        No picture yet. Take one before anything is moved: it is the best note there is.
      </p>
      <div class="grid grid-cols-2 gap-3">
        <figure v-for="p in here" :key="p.id">
          <a :href="`/api/pictures/${p.id}`" target="_blank">
            <img
              :src="`/api/pictures/${p.id}?small=true`"
              :alt="p.name"
              class="h-36 w-full rounded border border-rule object-cover"
            />
          </a>
          <figcaption class="mt-1 flex justify-between gap-2 text-sm">
            <button type="button" class="text-river underline" @click="marking = p">
              fasteners {{ p.fasteners.length || '' }}
            </button>
            <button
              type="button"
              class="text-slate underline"
              @click="remove.mutate({ id: p.id, undo: false })"
            >
              take away
            </button>
          </figcaption>
        </figure>
      </div>
      <p v-if="gone" class="mt-3" role="status">
        The picture is taken away.
        <button
          type="button"
          class="text-river underline"
          @click="remove.mutate({ id: gone, undo: true })"
        >
          Undo
        </button>
      </p>
      <p v-if="add.isError.value" class="mt-3 text-brick" role="alert">
        ✕ {{ sentence(add.error.value) }}
      </p>
      <label class="next mt-4 inline-block cursor-pointer focus-within:outline-3">
        {{ add.isPending.value ? 'Bringing it in …' : 'Add a picture' }}
        <input
          type="file"
          class="sr-only"
          accept="image/jpeg,image/png,image/webp"
          multiple
          @change="chosen"
        />
      </label>
      <p class="mt-2 text-sm text-slate">
        JPEG, PNG or WebP, up to 20 MB. It is turned upright; place and device are not kept.
      </p>
    </template>
  </Dialog>
</template>
