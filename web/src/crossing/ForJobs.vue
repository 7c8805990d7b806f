<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Schemas } from '../api/client'
import { useUndo } from '../shed/undo'
import { useGoOnFrom } from '../stations/survey/goOnFrom'
import type { Crossing } from './useCrossing'

/** Jobs whose survey, plan and build are of the image that was copied: they may go on from the copy. */
const props = defineProps<{ crossing: Crossing }>()
const undo = useUndo()
const copy = computed(() => props.crossing.laid.disks[0]?.image ?? 0)
const jobs = useQuery({
  queryKey: computed(() => ['jobs', 'from', props.crossing.image]),
  queryFn: () =>
    ask(api.GET('/api/jobs/from/{image}', { params: { path: { image: props.crossing.image } } })),
  enabled: computed(() => props.crossing.image > 0),
})
const went = ref<Schemas['JobFrom'] | null>(null)
const picked = ref<Schemas['JobFrom']>({ id: 0, version: 0, machine: '' })
const { goOn } = useGoOnFrom(() => picked.value)

async function go(job: Schemas['JobFrom']): Promise<void> {
  picked.value = job
  await goOn.mutateAsync(copy.value)
  went.value = job
  undo.offer(`${job.machine} goes on from the copy.`, async () => {
    const path = { image: copy.value }
    const now = await ask(api.GET('/api/jobs/from/{image}', { params: { path } }))
    const same = now.find((j) => j.id === job.id)
    went.value = null
    if (!same) return
    picked.value = same
    await goOn.mutateAsync(props.crossing.image)
  })
}
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
        :disabled="goOn.isPending.value"
        @click="void go(j).catch(() => undefined)"
      >
        {{ j.machine }}: go on from the copy
      </button>
    </template>
    <p v-if="goOn.isError.value" class="mt-1 text-sm text-brick" role="alert">
      ✕ {{ sentence(goOn.error.value) }}
    </p>
  </section>
</template>
