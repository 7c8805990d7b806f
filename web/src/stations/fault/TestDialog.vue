<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { watchDebounced } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'
import { api, ask, type Board, type BoardTest, type Schemas } from '../../api/client'
import Dialog from '../../shed/Dialog.vue'
import { useDraft } from '../../shed/draft'
import { OUTCOMES, type Outcome } from './outcomes'

/** One test: what was asked of which parts, and how it went. What is half typed is there again next time. */
type Text = Omit<Schemas['TrialText'], 'outcome'> & { outcome: Outcome | '' }
const props = defineProps<{
  job: number
  board: Board
  test?: BoardTest
  start?: Partial<Schemas['TrialText']>
  problem: string
}>()
const emit = defineEmits<{ close: []; save: [Schemas['TrialText']]; remove: [] }>()
const READING = 'reading'
const operation = () => props.board.operations[0] ?? 'starts'
const fresh = (): Text => ({
  title: '',
  parts: props.board.parts.filter((p) => p.text.fitted).map((p) => p.id),
  operation: operation(),
  outcome: '',
  words: '',
  worked: 0,
  of: 0,
})
// Only a test that is new and that nobody has begun to fill in for the person is kept as a draft.
const draft = props.test || props.start ? null : useDraft(`test ${props.job}`, fresh)
const there = new Set(props.board.parts.map((p) => p.id))
const text = reactive<Text>({
  ...fresh(),
  ...draft?.text.value,
  ...props.test?.text,
  ...props.start,
})
text.parts = text.parts.filter((id) => there.has(id))
if (draft) watch(text, () => (draft.text.value = { ...text }))

const isReading = computed({
  get: () => text.operation === READING,
  set: (yes: boolean) => (text.operation = yes ? READING : operation()),
})
const MAIN: Outcome[] = ['WORKS', 'FAILS', 'SOMETIMES', 'PARTLY', 'SLOW', 'NOTED', 'CHANGED']
const like = ref('')

/** The same parts and the same question as an earlier test; what differs is changed from there. */
function asTest(number: string): void {
  const t = props.board.trials.find((x) => x.number === Number(number))
  if (!t) return
  text.parts = [...t.text.parts]
  text.operation = t.text.operation
  text.title = `Test ${t.number} again, but `
}

const judged = useMutation({
  mutationFn: (words: string) => ask(api.POST('/api/readings', { body: { words } })),
})
watchDebounced(
  () => text.words,
  (words) => {
    if (/\d/.test(words)) judged.mutate(words)
  },
  { debounce: 300 },
)
const says = computed(() => (text.words ? judged.data.value : undefined))

const missing = computed(() => {
  if (!text.parts.length) return 'Mark the parts that took part.'
  if (!text.outcome) return 'Say how it went.'
  if (text.outcome === 'SOMETIMES' && !(text.of >= 2 && text.worked <= text.of)) {
    return 'Say how often it worked, of how many tries: 2 to 20.'
  }
  return ''
})

function toggle(id: number): void {
  text.parts = text.parts.includes(id) ? text.parts.filter((x) => x !== id) : [...text.parts, id]
}

function save(): void {
  if (missing.value || !text.outcome) return
  emit('save', { ...text, outcome: text.outcome, worked: text.worked || 0, of: text.of || 0 })
}
defineExpose({ forget: () => draft?.forget() })
</script>

<template>
  <Dialog :title="test ? `Test ${test.number}` : 'A test'" @close="emit('close')">
    <form class="space-y-3" @submit.prevent="save">
      <p v-if="draft?.kept" class="text-sm text-river">
        What you had begun is here again.
        <button type="button" class="underline" @click="Object.assign(text, fresh())">
          Begin anew
        </button>
      </p>
      <div class="grid gap-3 sm:grid-cols-[1fr_190px]">
        <label class="block">
          <span class="head">What was done</span>
          <input v-model="text.title" class="field mt-1" required maxlength="120" autofocus />
        </label>
        <label v-if="!test && board.trials.length" class="block">
          <span class="head">Same as test …, but</span>
          <select v-model="like" class="field mt-1" @change="asTest(like)">
            <option value="">–</option>
            <option v-for="t in board.trials" :key="t.id" :value="String(t.number)">
              {{ t.number }} {{ t.text.title }}
            </option>
          </select>
        </label>
      </div>
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
      <fieldset>
        <legend class="head mb-1">How it went</legend>
        <div class="flex flex-wrap gap-2">
          <button
            v-for="o in MAIN"
            :key="o"
            type="button"
            class="plain px-3 py-1.5"
            :class="
              text.outcome === o ? `border-2 border-current! font-bold ${OUTCOMES[o].tone}` : ''
            "
            :aria-pressed="text.outcome === o"
            @click="text.outcome = o"
          >
            {{ OUTCOMES[o].mark }} {{ OUTCOMES[o].word }}
          </button>
        </div>
        <p v-if="text.outcome === 'SOMETIMES'" class="mt-2 flex items-center gap-2">
          <label
            >worked
            <input
              v-model.number="text.worked"
              type="number"
              min="0"
              max="20"
              class="field figure inline! w-20!"
          /></label>
          <label
            >times of
            <input
              v-model.number="text.of"
              type="number"
              min="2"
              max="20"
              class="field figure inline! w-20!"
          /></label>
        </p>
        <p v-if="text.outcome === 'CHANGED'" class="mt-2 text-sm text-slate">
          No test: something was done to these parts, such as cleaning contacts. What was tried with
          them before counts less from here on.
        </p>
        <p v-if="text.outcome === 'NOTED'" class="mt-2 text-sm text-slate">
          Kept on the board; it speaks neither for nor against a part.
        </p>
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
      <p v-if="says?.sentence" class="text-sm text-river" role="status">
        {{ says.sentence }}
        <button
          v-if="says.outcome && text.outcome !== says.outcome"
          type="button"
          class="underline"
          @click="text.outcome = says.outcome as Outcome"
        >
          Take “{{ OUTCOMES[says.outcome as Outcome].word }}”
        </button>
      </p>
      <p v-else-if="isReading" class="text-sm text-slate">
        A contact is open above 1 MΩ and closed below 5 Ω; anything between is dirt or damage. Rails
        hold within 5 %. A neighbour of the same kind is the best comparison.
      </p>
      <p v-if="problem" class="text-brick" role="alert">✕ {{ problem }}</p>
      <div class="flex flex-wrap items-center gap-3">
        <button class="next" :disabled="missing !== ''">Put it on the board</button>
        <span v-if="missing" class="text-sm text-slate">{{ missing }}</span>
        <button v-if="test" type="button" class="plain" @click="emit('remove')">Take it off</button>
      </div>
    </form>
  </Dialog>
</template>
