<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, type Job, type Station } from '../../api/client'
import Downloads from '../../parts/Downloads.vue'
import { useRecord } from '../shared/useRecord'

const props = defineProps<{ job: Job; station: Station }>()
const { record, save, problem } = useRecord(
  () => props.job,
  () => props.station,
)
const image = useQuery({
  queryKey: computed(() => ['image', props.job.builtId]),
  queryFn: () => ask(api.GET('/api/images/{id}', { params: { path: { id: props.job.builtId } } })),
  enabled: computed(() => props.job.builtId > 0),
})
</script>

<template>
  <div class="grid gap-3 lg:grid-cols-2">
    <section class="sheet p-5">
      <h2 class="head">The golden copy</h2>
      <template v-if="image.data.value">
        <p class="figure mt-1 text-3xl font-bold">{{ image.data.value.size }}</p>
        <p class="mt-1 text-sm text-slate">SHA-256</p>
        <p class="figure text-sm break-all">{{ image.data.value.sha256 }}</p>
        <Downloads class="mt-3" :image="job.builtId" />
        <a class="mt-2 block text-river underline" :href="`/api/jobs/${job.id}/recipe`"
          >its recipe, as JSON</a
        >
      </template>
      <p v-else class="mt-1 text-slate">It will lie here once an image is built and proved.</p>
    </section>
    <section class="sheet p-5">
      <label class="block">
        <span class="head">For whoever works on it in five years</span>
        <textarea
          v-model="record.notes"
          class="field mt-1"
          rows="6"
          maxlength="10000"
          placeholder="where the spare card lies, what to watch"
        />
      </label>
      <p v-if="problem()" class="mt-2 text-brick" role="alert">✕ {{ problem() }}</p>
      <button v-if="!job.closed" type="button" class="next mt-3" @click="save.mutate(true)">
        Close the job
      </button>
      <div v-else class="mt-3 flex items-center gap-3">
        <span class="text-moss">✓ closed</span>
        <button type="button" class="plain" @click="save.mutate(false)">Open again</button>
      </div>
    </section>
  </div>
</template>
