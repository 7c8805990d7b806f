<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, sentence } from '../api/client'
import { LEVELS } from '../parts/levels'
import { hex, type Rom } from './useRoms'

/** The option ROM run as firmware enters it. */
const props = defineProps<{ rom: Rom }>()
const asked = useQuery({
  queryKey: computed(() => ['rom-run', props.rom.id, props.rom.place.window]),
  queryFn: () => ask(api.GET('/api/roms/{id}/run', { params: { path: { id: props.rom.id } } })),
  enabled: computed(() => !!props.rom.facts.option),
})
const r = computed(() => asked.data.value)
</script>

<template>
  <section v-if="rom.facts.option" class="sheet p-4">
    <h2 class="head">{{ r ? 'It was run' : 'It is run' }}</h2>
    <p v-if="asked.isPending.value" class="mt-1 text-slate">As the firmware enters it …</p>
    <p v-if="asked.isError.value" class="mt-1 text-brick" role="alert">
      ✕ {{ sentence(asked.error.value) }}
    </p>
    <template v-if="r">
      <pre
        class="figure mt-1 min-h-16 overflow-x-auto rounded bg-rail p-2 text-sm text-[#efe7d8]"
        aria-label="Its screen"
        >{{ r.screen.join('\n') || '(it prints nothing)' }}</pre>
      <p class="mt-1" :class="r.returned ? 'text-moss' : 'text-brick'">
        {{ r.returned ? '✓' : '✕' }} {{ r.sentence }}
      </p>
      <p v-if="r.hooks.length" class="mt-1 text-[15px]">
        hooks
        <span v-for="(h, i) in r.hooks" :key="h.vector"
          >{{ i ? ', ' : '' }}<span class="figure">INT {{ hex(h.vector, 2) }}h</span>
          {{ h.name }}</span
        >
      </p>
      <ul v-if="r.asked.length" class="mt-1 text-sm">
        <li v-for="a in r.asked" :key="a.call">
          <span class="figure">{{ a.call }}</span>: {{ a.answer }}
        </li>
      </ul>
      <p class="mt-1" :class="r.why ? 'text-lamp' : 'text-moss'">
        {{ r.why ? '▲' : '✓' }} needs an {{ LEVELS[r.needs] }} or later
        <span v-if="r.why" class="block text-sm">{{ r.why }}</span>
      </p>
      <p class="mt-1 text-sm text-slate">
        No controller answers here, so it finds no drive. What it did not reach was not looked at.
      </p>
    </template>
  </section>
</template>
