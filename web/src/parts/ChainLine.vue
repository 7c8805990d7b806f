<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask } from '../api/client'

/** Which chain of parts a job takes, and the way to choose one; at Fit with what is set on it. */
const props = defineProps<{ job: number; settings?: boolean }>()
const asked = useQuery({
  queryKey: computed(() => ['chain', props.job]),
  queryFn: () => ask(api.GET('/api/jobs/{id}/chain', { params: { path: { id: props.job } } })),
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
    <ul v-if="settings && a.settings.length" class="mt-1 space-y-1">
      <li v-for="s in a.settings" :key="s.name + s.value">
        <strong class="text-plum">◆ {{ s.name }}: {{ s.value }}</strong>
        <span class="block text-sm text-slate">{{ s.text }}</span>
      </li>
    </ul>
  </div>
</template>
