<script setup lang="ts">
import { computed } from 'vue'
import type { Job, Station } from '../../api/client'

/** At the end of a station that is done by hand and settled: the next one that is not. */
const props = defineProps<{ job: Job; station: Station }>()
/** Stations whose own screen ends with the way on. */
const OWN = [2, 3, 4, 5, 6, 7]
const next = computed(() =>
  props.job.stations.find(
    (s) => s.number > props.station.number && !['MOSS', 'DASH'].includes(s.state),
  ),
)
const shown = computed(
  () =>
    ['MOSS', 'DASH'].includes(props.station.state) &&
    !(props.station.state === 'MOSS' && OWN.includes(props.station.number)) &&
    !props.job.closed,
)
</script>

<template>
  <p v-if="shown && next" class="sheet flex shrink-0 flex-wrap items-center gap-4 px-5 py-3">
    <span v-if="station.state === 'DASH'" class="text-slate"
      >– {{ station.sentence || 'Not needed here.' }}</span
    >
    <RouterLink class="next" :to="`/jobs/${job.id}/${next.number}`">{{ next.name }}</RouterLink>
    <span class="text-slate">{{ next.waitsFor }}</span>
  </p>
</template>
