<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { computed, nextTick, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useKeyWall, useKeys } from '../../shed/keys'
import RecordLine from './RecordLine.vue'

/** One step at a time in very large type; readable from arm's length and on a phone. */
const props = defineProps<{
  title: string
  steps: Schemas['Step'][]
  tick: (index: number) => Schemas['Tick']
  waits?: boolean
  /** What begins with a step; "" for nothing. */
  head?: (index: number) => string
  /** What still holds the power, where a step of this list would put it on. */
  gate?: string
}>()
const emit = defineEmits<{ close: []; changed: [] }>()
const at = ref(
  Math.max(
    0,
    props.steps.findIndex((_, i) => !props.tick(i).done),
  ),
)
const reading = ref<HTMLInputElement | null>(null)
const step = computed(() => props.steps[at.value])
/** The part of the list that this step belongs to. */
const heading = computed(() => {
  const heads = props.steps.slice(0, at.value + 1).map((_, i) => props.head?.(i) ?? '')
  return heads.filter(Boolean).at(-1) ?? props.title
})

useKeyWall()
useKeys([
  { key: ' ', says: 'done, go on', does: () => on() },
  { key: 'Backspace', says: 'go back', does: () => back() },
  { key: 'N', says: 'note the reading', does: () => reading.value?.focus() },
  ...[1, 2, 3, 4].map((n) => ({
    key: String(n),
    says: `found: choice ${n}`,
    does: () => find(n - 1),
  })),
])

function find(n: number): void {
  const choice = step.value.choices[n]
  if (!choice) return
  props.tick(at.value).choice = choice.text
  emit('changed')
}
const found = computed(() => step.value.choices.find((c) => c.text === props.tick(at.value).choice))

/** What asks for a reading is not done before something was read, or found. */
const unread = computed(() => {
  const t = props.tick(at.value)
  return !!step.value.reading && !t.reading.trim() && !t.choice
})

function on(): void {
  if (!unread.value) {
    props.tick(at.value).done = true
    emit('changed')
  }
  if (at.value < props.steps.length - 1) at.value++
  else emit('close')
}

function back(): void {
  at.value = Math.max(0, at.value - 1)
  void nextTick()
}
</script>

<template>
  <Dialog :open="true" class="relative z-40 font-sans text-ink" @close="emit('close')">
    <DialogPanel
      class="fixed inset-0 flex flex-col overflow-y-auto bg-paper p-5 sm:p-10"
      tabindex="0"
    >
      <div class="flex items-center justify-between text-lg text-slate">
        <DialogTitle>{{ heading }} · {{ at + 1 }} of {{ steps.length }}</DialogTitle>
        <button type="button" class="plain" @click="emit('close')">
          Close <span class="key">Esc</span>
        </button>
      </div>
      <RecordLine class="mt-2 text-lg" problem="" :waits="waits" />
      <p v-if="gate" class="mt-2 text-lg font-bold text-brick" role="alert">▲ {{ gate }}</p>
      <div class="flex grow flex-col justify-center py-6">
        <p class="text-3xl leading-snug font-bold sm:text-5xl">{{ step.text }}</p>
        <p
          v-if="step.caution"
          class="mt-6 border-l-4 border-brick pl-4 text-xl text-brick sm:text-2xl"
        >
          ▲ {{ step.caution }}
        </p>
        <p v-if="step.look" class="mt-4 text-xl text-slate sm:text-2xl">{{ step.look }}</p>
        <div v-if="step.choices.length" class="mt-6 flex flex-wrap gap-3">
          <button
            v-for="(c, i) in step.choices"
            :key="c.text"
            type="button"
            class="plain px-4 py-3 text-xl"
            :class="
              tick(at).choice === c.text
                ? c.good
                  ? 'border-2 border-moss! font-bold text-moss'
                  : 'border-2 border-brick! font-bold text-brick'
                : ''
            "
            :aria-pressed="tick(at).choice === c.text"
            @click="find(i)"
          >
            {{ tick(at).choice === c.text ? (c.good ? '✓ ' : '✕ ') : '' }}{{ c.text }}
            <span class="key hidden sm:inline">{{ i + 1 }}</span>
          </button>
        </div>
        <p v-if="found?.then" class="mt-4 text-xl text-brick" role="status">▲ {{ found.then }}</p>
        <label v-if="step.reading" class="mt-8 block text-xl">
          {{ step.reading }}
          <input
            ref="reading"
            v-model="tick(at).reading"
            class="field figure mt-2 block max-w-md py-3 text-3xl"
            maxlength="200"
            @keydown.enter="on"
          />
        </label>
      </div>
      <div class="flex gap-4">
        <button type="button" class="plain px-6 py-4 text-xl" :disabled="at === 0" @click="back">
          Back <span class="key hidden sm:inline">Backspace</span>
        </button>
        <button type="button" class="next grow px-6 py-4 text-2xl" @click="on">
          {{ unread ? 'Not read' : 'Done' }},
          {{ at < steps.length - 1 ? 'go on' : 'that was the last' }}
          <span class="key hidden sm:inline">Space</span>
        </button>
      </div>
    </DialogPanel>
  </Dialog>
</template>
