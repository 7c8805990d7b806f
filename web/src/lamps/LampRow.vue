<script setup lang="ts">
import type { Light } from '../api/client'
import Lamp from './Lamp.vue'
import { LAMPS, lampTitle } from './lamps'

/** The ten lamps of a job; named ones are links to their stations. */
defineProps<{ stations: Light[]; job?: number; at?: number }>()
</script>

<template>
  <ol
    v-if="job"
    class="grid grow grid-cols-5 gap-y-1 min-[900px]:grid-cols-10"
    aria-label="Stations"
  >
    <li v-for="s in stations" :key="s.number" class="flex justify-center">
      <RouterLink
        :to="`/jobs/${job}/${s.number}`"
        class="flex flex-col items-center gap-1 rounded px-1 py-0.5"
        :title="lampTitle(s)"
        :aria-label="lampTitle(s)"
        :aria-current="s.number === at ? 'step' : undefined"
      >
        <Lamp :state="s.state" />
        <span class="text-sm" :class="s.number === at ? 'font-bold text-ink' : 'text-slate'">{{
          s.name
        }}</span>
      </RouterLink>
    </li>
  </ol>
  <ol v-else class="flex gap-1" aria-label="Stations">
    <li v-for="s in stations" :key="s.number" :title="lampTitle(s)">
      <Lamp :state="s.state" /><span class="sr-only">{{ s.name }} {{ LAMPS[s.state].word }}</span>
    </li>
  </ol>
</template>
