<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask } from '../api/client'
import ToldList from './ToldList.vue'

/** Which chain of parts a job takes, and the way to choose one; at Fit with what is set on it. */
const props = defineProps<{
  job: number
  /** The card that is meant; without one that which was written for the job. */
  card?: number
  settings?: boolean
}>()
const asked = useQuery({
  queryKey: computed(() => ['chain', props.job, props.card ?? 0]),
  queryFn: () =>
    ask(
      api.GET('/api/jobs/{id}/chain', {
        params: { path: { id: props.job }, query: { card: props.card ?? 0 } },
      }),
    ),
  placeholderData: (before) => before,
})
const a = computed(() => asked.data.value)
</script>

<template>
  <div v-if="a" class="text-[15px]">
    <p>
      <span class="text-slate">Chain to the card: </span>
      <template v-if="a.key"
        ><span :class="a.fits ? 'text-moss' : 'text-brick'">{{
          a.fits ? '✓' : '✕ does not fit any more:'
        }}</span>
        {{ a.name }}
      </template>
      <RouterLink class="ml-2 text-river underline" :to="`/jobs/${job}/chain`">{{
        a.key ? 'look at it' : 'choose one'
      }}</RouterLink>
    </p>
    <ToldList :told="a.last.filter((t) => t.verdict !== 'FITS')" />
    <ul v-if="settings && a.settings.length" class="mt-1 space-y-1">
      <li v-for="s in a.settings" :key="s.name + s.value">
        <strong class="text-plum">◆ {{ s.name }}: {{ s.value }}</strong>
        <span class="block text-sm text-slate">{{ s.text }}</span>
      </li>
    </ul>
  </div>
</template>
