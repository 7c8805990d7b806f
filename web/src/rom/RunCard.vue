<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, sentence } from '../api/client'
import { count } from '../shed/units'
import { isLater, LEVELS } from '../parts/levels'
import { hex, type Rom } from './useRoms'

/** The option ROM run as firmware enters it. */
const props = defineProps<{ rom: Rom }>()
const asked = useQuery({
  queryKey: computed(() => ['rom-run', props.rom.id, props.rom.place.window]),
  queryFn: () => ask(api.GET('/api/roms/{id}/run', { params: { path: { id: props.rom.id } } })),
  enabled: computed(() => !!props.rom.facts.option),
})
const r = computed(() => asked.data.value)
/** Whether something that the run did not come to needs a later processor. */
const later = computed(() => r.value && isLater(r.value.code.needs, r.value.needs))
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
      <div class="mt-2 border-t border-rule pt-2">
        <p :class="later ? 'text-lamp' : 'text-moss'">
          {{ later ? '▲' : '✓' }} {{ count(r.code.instructions) }} instructions can be reached; all
          of them together need an {{ LEVELS[r.code.needs] }}
        </p>
        <details v-if="r.code.beyond.length" class="text-sm">
          <summary class="cursor-pointer text-river underline">what an 8086 lacks</summary>
          <p v-for="b in r.code.beyond" :key="b.at" class="figure">
            {{ hex(b.at) }} {{ b.code }} <span class="text-slate">{{ LEVELS[b.needs] }}</span>
          </p>
        </details>
        <p class="mt-1 text-sm text-slate">
          Followed from its entry and its hooks, whether a run comes there or not.
          <template v-if="r.code.unseen"
            >{{ count(r.code.unseen) }} jumps or calls go where only a run knows. </template
          ><template v-if="r.code.astray"
            >{{ count(r.code.astray) }} places that were reached hold no instruction. </template
          >No controller answers here, so it finds no drive.
        </p>
      </div>
    </template>
  </section>
</template>
