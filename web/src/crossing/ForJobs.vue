<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Schemas } from '../api/client'
import { staleJob } from '../api/live'
import { useUndo } from '../shed/undo'
import type { Crossing } from './useCrossing'

/** Jobs whose survey, plan and build are of the image that was copied: they may go on from the copy. */
const props = defineProps<{ crossing: Crossing }>()
const queries = useQueryClient()
const undo = useUndo()
const copy = computed(() => props.crossing.laid.disks[0]?.image ?? 0)
const jobs = useQuery({
  queryKey: computed(() => ['jobs', 'from', props.crossing.image]),
  queryFn: () =>
    ask(api.GET('/api/jobs/from/{image}', { params: { path: { image: props.crossing.image } } })),
  enabled: computed(() => props.crossing.image > 0),
})
const went = ref<Schemas['JobFrom'] | null>(null)

async function from(job: Schemas['JobFrom'], imageId: number): Promise<void> {
  await ask(
    api.PUT('/api/jobs/{id}/source', {
      params: { path: { id: job.id } },
      body: { version: job.version, imageId },
    }),
  )
  await staleJob(queries, job.id)
}
const go = useMutation({
  mutationFn: (job: Schemas['JobFrom']) => from(job, copy.value),
  onSuccess: (_, job) => {
    went.value = job
    undo.offer(`${job.machine} goes on from the copy.`, async () => {
      const path = { image: copy.value }
      const now = await ask(api.GET('/api/jobs/from/{image}', { params: { path } }))
      const same = now.find((j) => j.id === job.id)
      if (same) await from(same, props.crossing.image)
      went.value = null
    })
  },
})
</script>

<template>
  <section v-if="went || jobs.data.value?.length">
    <h2 class="head">In a job</h2>
    <p v-if="went" class="mt-1 text-sm text-moss" role="status">
      ✓
      <RouterLink class="underline" :to="`/jobs/${went.id}`">{{ went.machine }}</RouterLink>
      goes on from the copy; its plan is laid out anew.
    </p>
    <template v-else>
      <p class="mt-1 text-sm text-slate">The image that was copied is what a job works on.</p>
      <button
        v-for="j in jobs.data.value"
        :key="j.id"
        type="button"
        class="plain mt-2 block"
        :disabled="go.isPending.value"
        @click="go.mutate(j)"
      >
        {{ j.machine }}: go on from the copy
      </button>
    </template>
    <p v-if="go.isError.value" class="mt-1 text-sm text-brick" role="alert">
      ✕ {{ sentence(go.error.value) }}
    </p>
  </section>
</template>
