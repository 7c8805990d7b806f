<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed } from 'vue'
import { api, ask, sentence, type PlanChoice, type Schemas } from '../../api/client'
import { ended } from '../../parts/endings'

/** How the image would start with the old boot code and with our own, each run before it is built. */
const props = defineProps<{ job: number; choice: PlanChoice }>()
const emit = defineEmits<{ change: [how: (c: PlanChoice) => void] }>()
const wanted = refDebounced(
  computed(() => JSON.stringify(props.choice)),
  400,
)
const starts = useQuery({
  queryKey: computed(() => ['starts', props.job, wanted.value]),
  queryFn: ({ signal }) =>
    ask(
      api.POST('/api/jobs/{id}/plan/starts', {
        params: { path: { id: props.job } },
        body: JSON.parse(wanted.value) as PlanChoice,
        signal,
      }),
    ),
  placeholderData: keepPreviousData,
})
const name = (kept: boolean) =>
  props.choice.strategy === 'CLONE' ? 'As it is' : kept ? 'The old boot code' : 'The shed’s own'
const NOT_TRIED = { mark: '–', tone: 'text-slate' }
const mark = (s: Schemas['StartView']) => (s.ending ? ended(s.ending) : NOT_TRIED)
</script>

<template>
  <section
    v-if="starts.isError.value || starts.data.value?.length"
    aria-label="Tried before it is built"
  >
    <h3 class="head">Tried before it is built</h3>
    <p v-if="starts.isError.value" class="text-[15px] text-brick" role="status">
      ✕ {{ sentence(starts.error.value) }}
    </p>
    <ul
      class="divide-y divide-rule text-[15px]"
      :class="starts.isFetching.value ? 'opacity-60' : ''"
    >
      <li v-for="s in starts.data.value" :key="String(s.kept)" class="flex gap-2 py-1">
        <span class="shrink-0 font-bold" :class="mark(s).tone">{{ mark(s).mark }}</span>
        <p>
          <strong>{{ name(s.kept) }}{{ s.chosen ? ', chosen' : '' }}:</strong> {{ s.sentence }}
          <button
            v-if="!s.chosen && s.ending"
            type="button"
            class="text-sm text-river underline"
            @click="emit('change', (c) => (c.keepBootCode = s.kept))"
          >
            take it
          </button>
        </p>
      </li>
    </ul>
  </section>
</template>
