<script setup lang="ts">
import type { Schemas } from '../../api/client'
import Why from '../../because/Why.vue'

/** Each figure that is foretold, what the machine shows of it, and the difference (V-5). */
const props = defineProps<{ rows: Schemas['ShownRow'][]; seen: (key: string) => Schemas['Seen'] }>()

const MARK: Record<Schemas['ShownRow']['verdict'], { mark: string; word: string; tone: string }> = {
  OPEN: { mark: '○', word: 'not read yet', tone: 'text-lamp' },
  AGREES: { mark: '✓', word: 'as predicted', tone: 'text-moss' },
  EXPLAINED: { mark: '≈', word: 'differs, with a reason', tone: 'text-river' },
  DIFFERS: { mark: '✕', word: 'differs', tone: 'text-brick' },
  UNSEEN: { mark: '—', word: 'not shown by it', tone: 'text-slate' },
}

/** The verdict is of what was typed when it was kept; of anything newer nobody knows yet. */
function of(r: Schemas['ShownRow']) {
  const now = props.seen(r.key)
  return now.text === r.seen && now.unseen === r.unseen
    ? MARK[r.verdict]
    : { mark: '○', word: 'typed, not kept yet', tone: 'text-lamp' }
}

/** What usually lies behind a difference. */
const USUAL = [
  'the system takes an area of its own',
  'one card is not counted until the next restart',
  'the first start wrote a log or its settings',
  'the machine counts a bad or reserved unit as used',
]
</script>

<template>
  <table class="mt-1 block w-full text-[15px] md:table">
    <caption class="sr-only">
      Figures that are foretold, and what the machine shows
    </caption>
    <thead class="hidden text-left text-sm text-slate md:table-header-group">
      <tr>
        <th class="py-1 pr-3 font-normal">predicted</th>
        <th class="w-48 py-1 pr-3 font-normal">the machine shows</th>
        <th class="py-1 font-normal">difference</th>
      </tr>
    </thead>
    <tbody class="block divide-y divide-rule md:table-row-group">
      <tr v-for="r in rows" :key="r.key" class="block py-2 align-top md:table-row">
        <td class="block py-1 md:table-cell md:py-2 md:pr-3">
          {{ r.what }}
          <span class="block text-plum"
            >◆ <Why class="figure" :sum="r.because" :text="r.predicted"
          /></span>
        </td>
        <td class="block py-1 md:table-cell md:py-2 md:pr-3">
          <input
            v-model="seen(r.key).text"
            class="field figure h-9"
            maxlength="120"
            :disabled="seen(r.key).unseen"
            :aria-label="`${r.what}: what the machine shows`"
          />
        </td>
        <td class="block py-1 md:table-cell md:py-2" :class="of(r).tone">
          <span role="status" class="mr-3">{{ of(r).mark }} {{ of(r).word }}</span>
          <span v-if="r.sentence" class="block text-sm">{{ r.sentence }}</span>
          <label class="inline-flex items-center gap-2 text-sm whitespace-nowrap text-slate">
            <input v-model="seen(r.key).unseen" type="checkbox" class="accent-moss" />not shown by
            it
          </label>
          <input
            v-if="r.verdict === 'DIFFERS' || r.verdict === 'EXPLAINED'"
            v-model="seen(r.key).explained"
            class="field mt-1 h-9 text-sm"
            list="usual-reasons"
            maxlength="400"
            placeholder="because"
            :aria-label="`${r.what}: why it differs`"
          />
        </td>
      </tr>
    </tbody>
  </table>
  <datalist id="usual-reasons">
    <option v-for="u in USUAL" :key="u" :value="u" />
  </datalist>
</template>
