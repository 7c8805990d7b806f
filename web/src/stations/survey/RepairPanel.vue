<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Job } from '../../api/client'
import ErrandLine from '../../parts/ErrandLine.vue'
import { useErrand } from '../../parts/useErrand'
import { useGoOnFrom } from './goOnFrom'

/** Mends a copy: every change is read before anything is made, and the rescued image stays as it is. */
const props = defineProps<{
  image: number
  /** Of which volume, −1 for the table. */
  volume?: number
  /** Or the start, for so many heads and sectors a track. */
  start?: { heads: number; sectors: number }
  title?: string
  note?: string
  job?: Job
}>()
const { goOn } = useGoOnFrom(() => props.job!)
const queries = useQueryClient()
const open = ref(false)
const path = computed(() => ({ id: props.image }))
const ofVolume = computed(() => ({
  params: { path: path.value, query: { volume: props.volume ?? 0 } },
}))
const ofStart = computed(() => ({
  params: { path: path.value, query: props.start ?? { heads: 0, sectors: 0 } },
}))
const plan = useQuery({
  queryKey: computed(() => ['repair', props.image, props.volume, props.start]),
  queryFn: () =>
    props.start
      ? ask(api.GET('/api/images/{id}/repair/start', ofStart.value))
      : ask(api.GET('/api/images/{id}/repair', ofVolume.value)),
})
const { errand, run, stop } = useErrand()
const mend = useMutation({
  mutationFn: () =>
    run(
      props.start
        ? ask(api.POST('/api/images/{id}/repair/start', ofStart.value))
        : ask(api.POST('/api/images/{id}/repair', ofVolume.value)),
    ),
  onSuccess: () => queries.invalidateQueries({ queryKey: ['images'] }),
})
</script>

<template>
  <section v-if="plan.data.value?.length" class="sheet p-4">
    <h2 class="head">
      {{ title ?? 'Mend a copy' }}
      <span class="figure font-normal text-slate"
        >{{ plan.data.value.length }}
        {{ plan.data.value.length === 1 ? 'change' : 'changes' }}</span
      >
    </h2>
    <p v-if="note" class="text-sm text-slate">{{ note }}</p>
    <ol class="mt-1 list-decimal pl-5 text-[15px]">
      <li v-for="c in open ? plan.data.value : plan.data.value.slice(0, 3)" :key="c.what">
        {{ c.what }}
      </li>
    </ol>
    <button
      v-if="plan.data.value.length > 3"
      type="button"
      class="text-[15px] text-river underline"
      @click="open = !open"
    >
      {{ open ? 'fewer' : `all ${plan.data.value.length}` }}
    </button>
    <p v-if="mend.isError.value" class="mt-2 text-brick" role="alert">
      ✕ {{ sentence(mend.error.value) }}
    </p>
    <p v-if="mend.isSuccess.value" class="mt-2 text-moss" role="status">
      ✓ The mended copy lies on the shelf, under Images. The rescued image is as it was.
      <button
        v-if="job && mend.data.value"
        type="button"
        class="plain mt-2 block text-ink"
        @click="goOn.mutate(mend.data.value)"
      >
        Go on with it in this job
      </button>
    </p>
    <ErrandLine v-else-if="errand" :errand="errand" title="The mended copy" @stop="stop" />
    <button
      v-else
      type="button"
      class="plain mt-2"
      :disabled="mend.isPending.value"
      @click="mend.mutate()"
    >
      Make the mended copy
    </button>
  </section>
</template>
