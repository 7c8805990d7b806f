<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { sentence } from '../api/client'
import { count } from '../shed/units'
import ReadsColumn from '../sounding/ReadsColumn.vue'
import ChainList from './ChainList.vue'
import { ended } from './endings'
import { useRehearsal, type Wish } from './useRehearsal'
import WhatIf from './WhatIf.vue'

/**
 * The start of an image: its links as a ladder, what the machine's screen will show where its code
 * is run, where it read, and what would be otherwise.
 */
const props = defineProps<{ job: number; image: number; card?: boolean }>()
const wish = ref<Wish>({})
const of = () => ({ job: props.job, image: props.image, card: props.card ?? false })
const usual = useRehearsal(of)
const wished = useRehearsal(() => ({ ...of(), wish: wish.value }))
watch(
  () => props.image,
  () => (wish.value = {}),
)
const view = computed(() => wished.data.value)
const run = computed(() => view.value?.run)
const verdict = computed(() => run.value && ended(run.value.ending))
const changed = computed(() => Object.keys(wish.value).length > 0)
const holds = computed(() => view.value?.links.every((l) => l.verdict !== 'BREAKS'))
const at = ref(0)
watch(run, (r) => (at.value = r?.reads.length ?? 0), { immediate: true })
</script>

<template>
  <section v-if="wished.isError.value && !view" class="sheet p-4">
    <p class="text-brick" role="alert">✕ {{ sentence(wished.error.value) }}</p>
  </section>
  <section v-else-if="!view || !usual.data.value" class="sheet p-4">
    <p class="text-slate" role="status">Running its start …</p>
  </section>
  <section
    v-else
    class="sheet grid gap-x-6 gap-y-4 p-4"
    :class="run ? 'lg:grid-cols-[1fr_1.15fr_1fr]' : ''"
    aria-label="Rehearsal"
    :aria-busy="wished.isFetching.value"
  >
    <div class="min-w-0">
      <div class="flex flex-wrap items-baseline justify-between gap-x-3">
        <h2 v-if="verdict" class="head" :class="verdict.tone">
          {{ verdict.mark }} {{ verdict.head }}
        </h2>
        <h2 v-else class="head" :class="holds ? '' : 'text-brick'">
          {{ holds ? '○ No link of its start breaks' : '✕ A link of its start breaks' }}
        </h2>
        <span v-if="run" class="figure text-sm text-slate"
          >{{ count(run.count) }} {{ run.count === 1 ? 'read' : 'reads' }},
          {{ count(run.steps) }} steps</span
        >
      </div>
      <p v-if="changed" class="text-sm font-bold text-lamp">▲ with what was changed here</p>
      <p v-if="wished.isError.value" class="text-brick" role="alert">
        ✕ {{ sentence(wished.error.value) }}
      </p>
      <p v-if="run" role="status">{{ run.sentence }}</p>
      <p class="text-sm text-slate">
        {{ run ? 'The bytes themselves, run under' : 'The bytes themselves, walked under' }}
        {{ view.under }}
      </p>
      <ChainList class="mt-3" :links="view.links" :class="run ? '' : 'lg:columns-2'" />
      <p v-if="!run" class="mt-2 text-sm text-slate">
        The code of this machine is not run here: that it starts the machine shows.
      </p>
    </div>
    <div v-if="run" class="min-w-0">
      <h3 class="head">What its screen will show</h3>
      <div
        class="mt-1 max-h-56 min-h-28 overflow-auto rounded bg-deep p-3"
        tabindex="0"
        role="region"
        aria-label="Text screen of the machine"
      >
        <pre class="font-mono text-[13px] leading-5 text-[#efe7d8]">{{
          run.screen.length ? run.screen.join('\n') : ' '
        }}</pre>
      </div>
      <p v-if="!run.screen.length" class="text-sm text-slate">
        Nothing yet: its code writes no text before the loader.
      </p>
      <WhatIf :key="image" v-model="wish" :view="usual.data.value" />
    </div>
    <ReadsColumn
      v-if="run"
      v-model:at="at"
      class="min-w-0"
      :reads="run.reads"
      :parts="view.parts"
    />
  </section>
</template>
