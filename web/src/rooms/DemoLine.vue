<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask } from '../api/client'
import { count } from '../shed/units'

/** How far the demonstration is; nothing where none was asked for, or all of it is there. */
const demo = useQuery({ queryKey: ['demo'], queryFn: () => ask(api.GET('/api/demo')) })
const now = computed(() => demo.data.value)
const share = computed(() => (now.value?.of ? (100 * now.value.done) / now.value.of : 0))
</script>

<template>
  <div v-if="now?.running" class="sheet mb-3 px-4 py-2.5" role="status">
    <p>
      <span class="text-river" aria-hidden="true">↻</span> The demonstration is being laid out:
      <span class="figure">{{ count(now.done) }}</span> of
      <span class="figure">{{ count(now.of) }}</span>, now {{ now.what }}. What is there can be used
      already.
    </p>
    <div class="mt-1.5 h-1.5 rounded bg-rule" aria-hidden="true">
      <div class="h-full rounded bg-river" :style="{ width: `${share}%` }"></div>
    </div>
  </div>
  <p v-else-if="now?.failed" class="sheet mb-3 border-brick px-4 py-2.5" role="alert">
    <span class="text-brick">✕ The demonstration stopped at {{ now.what }}:</span> {{ now.failed }}
    Start the shed again; it goes on from there.
  </p>
</template>
