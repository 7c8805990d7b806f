<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { sentence } from '../api/client'
import { count } from '../shed/units'
import { useRehearsal } from './useRehearsal'

/**
 * The start of an image, run as this machine would: what its screen will show, what was read where,
 * and what would be otherwise. Arrow keys go through the reads.
 */
const props = defineProps<{ job: number; image: number; card?: boolean }>()
const rehearsal = useRehearsal(() => ({
  job: props.job,
  image: props.image,
  card: props.card ?? false,
}))
const run = computed(() => rehearsal.data.value?.run)
const starts = computed(() => run.value?.ending === 'ENTERED')
/** The read that is looked at, counted from 1; 0 for none. */
const at = ref(0)
watch(run, (r) => (at.value = r?.reads.length ?? 0))
const reads = computed(() => run.value?.reads ?? [])
/** A few before the one that is looked at, and a few behind it. */
const near = computed(() => {
  const from = Math.max(0, Math.min(at.value - 4, reads.value.length - 7))
  return reads.value.slice(from, from + 7).map((r, i) => ({ ...r, number: from + i + 1 }))
})
function step(by: number): void {
  at.value = Math.max(1, Math.min(reads.value.length, at.value + by))
}
</script>

<template>
  <section v-if="rehearsal.isError.value" class="sheet p-4">
    <p class="text-brick" role="alert">✕ {{ sentence(rehearsal.error.value) }}</p>
  </section>
  <section v-else-if="rehearsal.isPending.value" class="sheet p-4">
    <p class="text-slate">Running its start …</p>
  </section>
  <section v-else-if="run" class="sheet p-4" aria-label="Rehearsal">
    <div class="flex flex-wrap items-baseline justify-between gap-2">
      <h2 class="head" :class="starts ? 'text-moss' : 'text-brick'">
        {{ starts ? '✓ Its loader is entered' : '✕ Its loader is not entered' }}
      </h2>
      <span class="figure text-sm text-slate"
        >{{ count(run.count) }} {{ run.count === 1 ? 'read' : 'reads' }},
        {{ count(run.steps) }} steps</span
      >
    </div>
    <p role="status">{{ run.sentence }}</p>
    <p class="text-sm text-slate">
      The bytes themselves, run under {{ rehearsal.data.value?.under }}
    </p>
    <div class="mt-3 grid gap-4 lg:grid-cols-2">
      <div>
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
        <template v-if="rehearsal.data.value?.ifs.length">
          <h3 class="head mt-3">What if</h3>
          <table class="w-full text-[15px]">
            <tbody>
              <tr
                v-for="w in rehearsal.data.value.ifs"
                :key="w.what + w.how"
                class="border-t border-rule"
              >
                <td class="py-0.5 pr-3 align-top">{{ w.what }}</td>
                <td class="figure pr-3 align-top text-sm">{{ w.how }}</td>
                <td
                  class="align-top whitespace-nowrap"
                  :class="w.starts ? 'text-moss' : 'text-brick'"
                >
                  <span :title="w.sentence">{{ w.starts ? '✓ enters it' : '✕ does not' }}</span>
                  <span class="sr-only">{{ w.sentence }}</span>
                </td>
              </tr>
            </tbody>
          </table>
        </template>
      </div>
      <div
        tabindex="0"
        role="region"
        aria-label="Disk reads"
        @keydown.left.prevent="step(-1)"
        @keydown.up.prevent="step(-1)"
        @keydown.right.prevent="step(1)"
        @keydown.down.prevent="step(1)"
        @keydown.home.prevent="at = 1"
        @keydown.end.prevent="at = reads.length"
      >
        <div class="flex items-center justify-between">
          <h3 class="head">Where it read</h3>
          <span class="text-sm text-slate"
            >step
            <button type="button" class="key" aria-label="The read before" @click="step(-1)">
              ←
            </button>
            <button type="button" class="key" aria-label="The next read" @click="step(1)">→</button>
          </span>
        </div>
        <p v-if="!reads.length" class="text-slate">It reads nothing.</p>
        <table class="mt-1 w-full text-[15px]">
          <thead class="sr-only">
            <tr>
              <th>Number</th>
              <th>Asked as</th>
              <th>Sector</th>
              <th>What lies there</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="r in near"
              :key="r.number"
              class="cursor-pointer border-t border-rule"
              :class="r.number === at ? 'bg-lampwash font-bold' : ''"
              :aria-current="r.number === at || undefined"
              @click="at = r.number"
            >
              <td class="figure w-10 py-0.5">{{ r.number }}</td>
              <td class="figure w-24 whitespace-nowrap">{{ r.asked }}</td>
              <td class="figure w-28 text-right whitespace-nowrap">{{ count(r.lba) }}</td>
              <td class="figure max-w-0 truncate pl-3" :class="r.refused ? 'text-brick' : ''">
                {{ r.refused ? '✕ refused ' : '' }}{{ r.what || 'nothing that is known' }}
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="reads[at - 1]" class="mt-1 text-sm text-slate">
          Read {{ at }}: {{ reads[at - 1].sectors }}
          {{ reads[at - 1].sectors === 1 ? 'sector' : 'sectors' }}, asked by the code at
          <span class="figure">{{ reads[at - 1].from }}</span>.
        </p>
      </div>
    </div>
  </section>
</template>
