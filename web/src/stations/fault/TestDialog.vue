<script setup lang="ts">
import { computed, reactive } from 'vue'
import type { Board, BoardTest, Schemas } from '../../api/client'
import Dialog from '../../shed/Dialog.vue'

/** One test: what was asked of which parts, and how it went. */
const props = defineProps<{
  board: Board
  test?: BoardTest
  start?: Partial<Schemas['TrialText']>
  problem: string
}>()
const emit = defineEmits<{ close: []; save: [Schemas['TrialText']]; remove: [] }>()
const READING = 'reading'
const fresh: Schemas['TrialText'] = {
  title: '',
  parts: props.board.parts.filter((p) => p.text.fitted).map((p) => p.id),
  operation: props.board.operations[0] ?? 'starts',
  outcome: 'FAILS',
  words: '',
}
const text = reactive<Schemas['TrialText']>({ ...fresh, ...props.test?.text, ...props.start })
const isReading = computed({
  get: () => text.operation === READING,
  set: (yes: boolean) => (text.operation = yes ? READING : (props.board.operations[0] ?? 'starts')),
})
const outcomes = [
  { key: 'WORKS', text: '✓ works', tone: 'border-moss! text-moss' },
  { key: 'FAILS', text: '✕ fails', tone: 'border-brick! text-brick' },
  { key: 'PARTLY', text: '◐ partly', tone: 'border-brick! text-brick' },
] as const

function toggle(id: number): void {
  text.parts = text.parts.includes(id) ? text.parts.filter((x) => x !== id) : [...text.parts, id]
}
</script>

<template>
  <Dialog :title="test ? `Test ${test.number}` : 'A test'" @close="emit('close')">
    <form class="space-y-3" @submit.prevent="emit('save', { ...text })">
      <label class="block">
        <span class="head">What was done</span>
        <input v-model="text.title" class="field mt-1" required maxlength="120" autofocus />
      </label>
      <fieldset>
        <legend class="head">Parts that took part</legend>
        <div class="mt-1 flex flex-wrap gap-2">
          <button
            v-for="p in board.parts"
            :key="p.id"
            type="button"
            class="plain py-1! text-[15px]"
            :class="text.parts.includes(p.id) ? 'border-2 border-ink! font-bold' : 'text-slate'"
            :aria-pressed="text.parts.includes(p.id)"
            @click="toggle(p.id)"
          >
            {{ text.parts.includes(p.id) ? '● ' : '○ ' }}{{ p.text.name }}
          </button>
        </div>
      </fieldset>
      <div class="flex items-end gap-4">
        <label class="block grow">
          <span class="head">What was asked of them</span>
          <input
            v-model="text.operation"
            class="field mt-1"
            list="operations"
            required
            maxlength="60"
            :disabled="isReading"
          />
          <datalist id="operations">
            <option v-for="o in board.operations" :key="o" :value="o" />
          </datalist>
        </label>
        <label class="flex items-center gap-2 pb-2">
          <input v-model="isReading" type="checkbox" class="h-5 w-5" /> a reading with a meter
        </label>
      </div>
      <fieldset class="flex gap-3">
        <legend class="head mb-1">How it went</legend>
        <button
          v-for="o in outcomes"
          :key="o.key"
          type="button"
          class="plain px-4 py-2"
          :class="text.outcome === o.key ? `border-2 font-bold ${o.tone}` : ''"
          :aria-pressed="text.outcome === o.key"
          @click="text.outcome = o.key"
        >
          {{ o.text }}
        </button>
      </fieldset>
      <label class="block">
        <span class="head">In words, or the reading</span>
        <input
          v-model="text.words"
          class="field mt-1"
          maxlength="400"
          placeholder="stops after 40 KB · 5.04 V"
        />
      </label>
      <p class="text-sm text-slate">
        A contact is open above 1 MΩ and closed below 5 Ω; anything between is dirt or damage. Rails
        hold within 5 %. A neighbour of the same kind is the best comparison.
      </p>
      <p v-if="problem" class="text-brick" role="alert">✕ {{ problem }}</p>
      <div class="flex gap-3">
        <button class="next">Put it on the board</button>
        <button v-if="test" type="button" class="plain" @click="emit('remove')">Take it off</button>
      </div>
    </form>
  </Dialog>
</template>
