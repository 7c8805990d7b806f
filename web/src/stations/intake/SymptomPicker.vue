<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, type Schemas } from '../../api/client'

/** What is heard, seen and noticed, and what it suggests. */
const chosen = defineModel<string[]>({ required: true })
const symptoms = useQuery({
  queryKey: ['symptoms'],
  queryFn: () => ask(api.GET('/api/symptoms')),
  staleTime: Infinity,
})
const SENSES = ['sound', 'light', 'behaviour']
const URGENCY: Record<string, { text: string; tone: string; rank: number }> = {
  now: { text: '✕ now', tone: 'text-brick', rank: 0 },
  soon: { text: '▲ soon', tone: 'text-lamp', rank: 1 },
  calm: { text: '○ no hurry', tone: 'text-slate', rank: 2 },
}
const of = (sense: string) => symptoms.data.value?.filter((s) => s.sense === sense) ?? []
const advice = computed(() =>
  (symptoms.data.value ?? [])
    .filter((s: Schemas['Symptom']) => chosen.value.includes(s.key))
    .sort((a, b) => URGENCY[a.urgency].rank - URGENCY[b.urgency].rank),
)

function add(e: Event): void {
  const select = e.target as HTMLSelectElement
  if (select.value) chosen.value = [...chosen.value, select.value]
  select.value = ''
}
</script>

<template>
  <div>
    <div class="flex gap-2">
      <select
        v-for="sense in SENSES"
        :key="sense"
        class="field min-w-0 py-1! text-sm"
        :aria-label="`Add a ${sense}`"
        @change="add"
      >
        <option value="">+ {{ sense === 'behaviour' ? 'habit' : sense }}</option>
        <option
          v-for="s in of(sense)"
          :key="s.key"
          :value="s.key"
          :disabled="chosen.includes(s.key)"
        >
          {{ s.text }}
        </option>
      </select>
    </div>
    <article v-for="s in advice" :key="s.key" class="mt-2 border-l-4 border-rule pl-3">
      <p class="flex items-baseline justify-between gap-2">
        <strong>{{ s.text }}</strong>
        <span class="shrink-0 text-sm font-bold" :class="URGENCY[s.urgency].tone">{{
          URGENCY[s.urgency].text
        }}</span>
      </p>
      <p class="text-sm">
        {{ s.suggests }} <strong>{{ s.act }}</strong>
      </p>
      <p v-if="s.dont" class="text-sm text-brick">▲ {{ s.dont }}</p>
      <button
        type="button"
        class="text-sm text-river underline"
        @click="chosen = chosen.filter((k) => k !== s.key)"
      >
        not this
      </button>
    </article>
  </div>
</template>
