<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { api, ask, sentence } from '../api/client'
import ErrandLine from '../parts/ErrandLine.vue'
import ImageChoice from '../parts/ImageChoice.vue'
import { useErrand } from '../parts/useErrand'
import type { Crossing } from './useCrossing'

/** The disks of a set in the free places of a library: a copy of one that is there, or a new one. */
const props = defineProps<{ crossing: Crossing }>()
const queries = useQueryClient()
const library = ref(0)
const made = ref(0)
const { errand, run, stop } = useErrand()

const go = useMutation({
  mutationFn: () =>
    run(
      ask(
        api.POST('/api/crossings/{id}/library', {
          params: { path: { id: props.crossing.id } },
          body: { library: library.value },
        }),
      ),
    ),
  onSuccess: (image) => {
    made.value = image
    void queries.invalidateQueries({ queryKey: ['images'] })
  },
})
</script>

<template>
  <section>
    <h2 class="head">Into a library</h2>
    <form v-if="!made" class="mt-1 flex gap-2" @submit.prevent="go.mutate()">
      <ImageChoice v-model="library" class="h-9 py-0!" none="a new one" label="Library" />
      <button type="submit" class="plain h-9 shrink-0 py-0!" :disabled="go.isPending.value">
        Put {{ crossing.laid.disks.length === 1 ? 'it' : 'them' }} in
      </button>
    </form>
    <ErrandLine v-if="errand" :errand="errand" title="Into the library" @stop="stop()" />
    <p v-if="go.isError.value" class="mt-1 text-sm text-brick" role="alert">
      ✕ {{ sentence(go.error.value) }}
    </p>
    <p v-if="made" class="mt-1 text-sm text-moss" role="status">
      ✓ Each disk was compared in its place.
      <RouterLink class="text-river underline" :to="`/images?at=${made}`"
        >Look at the library</RouterLink
      >
    </p>
  </section>
</template>
