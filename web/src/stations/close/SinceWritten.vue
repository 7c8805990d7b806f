<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, type Job } from '../../api/client'
import { count } from '../../shed/units'

/** What the machine did to the card since it was written, file by file, with a guess why (Z-1). */
const props = defineProps<{ job: Job }>()
const asked = useQuery({
  queryKey: computed(() => ['since-written', props.job.id, props.job.goldenId]),
  queryFn: () =>
    ask(api.GET('/api/jobs/{id}/since-written', { params: { path: { id: props.job.id } } })),
})
const since = computed(() => asked.data.value)
const WHAT = {
  NEW: { mark: '+', word: 'new' },
  CHANGED: { mark: '≠', word: 'changed' },
  GONE: { mark: '−', word: 'gone' },
} as const
</script>

<template>
  <section v-if="since?.changes.length" class="sheet p-5">
    <h2 class="head">Since it was written</h2>
    <ul class="mt-1 max-h-72 overflow-y-auto">
      <li
        v-for="c in since.changes"
        :key="`${c.volume} ${c.path}`"
        class="flex gap-3 border-t border-rule py-1.5"
      >
        <span class="w-24 shrink-0">{{ WHAT[c.what].mark }} {{ WHAT[c.what].word }}</span>
        <span class="min-w-0">
          <span class="figure break-all">{{ c.path }}</span>
          <span class="block text-sm text-slate">{{ c.guess }}</span>
        </span>
      </li>
    </ul>
    <p v-if="since.more" class="mt-1 text-sm text-slate">
      and {{ count(since.more) }} more that are not listed
    </p>
  </section>
</template>
