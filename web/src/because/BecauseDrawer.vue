<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'
import { useKeys } from '../shed/keys'
import { useBecause } from './because'

const because = useBecause()
const shut = ref<HTMLButtonElement | null>(null)

useKeys([
  // Only while it is open: a dialog must get the key otherwise.
  {
    key: 'Escape',
    says: 'close the drawer',
    when: () => because.sum !== null,
    does: () => because.close(),
  },
  { key: 'Y', says: 'because, of the figure in focus or the first one', does: askFocused },
])

watch(
  () => because.sum,
  async (sum) => {
    await nextTick()
    if (sum) shut.value?.focus()
  },
)

function askFocused(): void {
  const focused = document.activeElement
  const figure =
    focused instanceof HTMLElement && focused.matches('[data-why]')
      ? focused
      : document.querySelector<HTMLElement>('main [data-why]')
  figure?.focus()
  figure?.click()
}
</script>

<template>
  <aside
    v-if="because.sum"
    class="flex w-[300px] shrink-0 flex-col overflow-y-auto rounded border border-l-4 border-rule border-l-river bg-sheet p-5"
    aria-label="Because"
  >
    <div class="flex items-start justify-between">
      <h2 class="head">Because</h2>
      <button ref="shut" type="button" class="key" aria-label="Close" @click="because.close()">
        Esc
      </button>
    </div>
    <p class="text-sm text-slate">
      {{ because.sum.title
      }}<template v-if="because.sum.rule"> · rule {{ because.sum.rule }}</template>
    </p>
    <dl class="mt-4 space-y-1 text-[15px]">
      <div
        v-for="(line, i) in because.sum.lines"
        :key="i"
        class="flex items-baseline justify-between gap-3"
        :class="line.op === '=' ? 'border-t border-ink pt-1 font-bold' : ''"
      >
        <dt class="min-w-0 text-slate">
          <span class="figure mr-1 inline-block w-3 text-ink">{{ line.op }}</span>{{ line.label }}
        </dt>
        <dd class="figure text-right whitespace-nowrap">{{ line.text }}</dd>
      </div>
    </dl>
    <p v-if="because.sum.reason" class="mt-4">{{ because.sum.reason }}</p>
    <template v-if="because.sum.lifts.length">
      <h3 class="head mt-4">What would lift it</h3>
      <ul class="list-disc pl-5">
        <li v-for="lift in because.sum.lifts" :key="lift">{{ lift }}</li>
      </ul>
    </template>
  </aside>
</template>
