<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask } from '../api/client'
import type { Rom } from './useRoms'

/** Whose machine the image goes into, and whether its processor serves. */
const props = defineProps<{ rom: Rom }>()
const emit = defineEmits<{ job: [id: number] }>()
const jobs = useQuery({
  queryKey: ['jobs', 'of-rom'],
  queryFn: () => ask(api.GET('/api/jobs', { params: { query: { size: 100 } } })),
})
/** The latest, and the chosen one however old it is. */
const choices = computed(() => {
  const rows = jobs.data.value?.rows ?? []
  const job = props.rom.job
  return job.id && !rows.some((r) => r.id === job.id) ? [job, ...rows] : rows
})
</script>

<template>
  <section class="sheet p-4">
    <h2 class="head">For the machine of</h2>
    <select
      class="field mt-1 h-9 py-0!"
      aria-label="Job whose machine it goes into"
      :value="rom.job.id"
      @change="emit('job', Number(($event.target as HTMLSelectElement).value))"
    >
      <option :value="0">no job yet</option>
      <option v-for="j in choices" :key="j.id" :value="j.id">
        {{ j.machine }}
      </option>
    </select>
    <p
      v-if="rom.job.sentence"
      class="mt-2"
      :class="rom.job.serves ? 'text-moss' : 'text-brick'"
      role="status"
    >
      {{ rom.job.serves ? '✓' : '✕' }} {{ rom.job.sentence }}
    </p>
    <p v-if="rom.job.id" class="mt-1 text-sm text-slate">
      It stands in the record of that job, and its plan counts on it. For what it takes over, setup
      must say no drive.
    </p>
    <p class="mt-2 flex flex-wrap gap-3 text-sm">
      <a class="text-river underline" :href="`/api/roms/${rom.id}/label.pdf`" target="_blank"
        >Label for the chip</a
      >
      <a class="text-river underline" :href="`/api/roms/${rom.id}/fitting.pdf`" target="_blank"
        >Sheet for fitting it</a
      >
    </p>
  </section>
</template>
