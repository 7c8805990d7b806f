<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { answered } from '../../api/answered'
import {
  api,
  ask,
  sentence,
  type Advice,
  type Board,
  type BoardPart,
  type BoardTest,
  type Job,
  type Schemas,
  type Station,
} from '../../api/client'
import { once } from '../../api/once'
import { staleJob } from '../../api/live'
import Why from '../../because/Why.vue'
import { useKeys } from '../../shed/keys'
import { useSettings } from '../../shed/settings'
import GateLine from '../shared/GateLine.vue'
import EvidenceBoard from './EvidenceBoard.vue'
import HandVerdict from './HandVerdict.vue'
import NextTest from './NextTest.vue'
import PartDialog from './PartDialog.vue'
import StartLogDialog from './StartLogDialog.vue'
import TestDialog from './TestDialog.vue'

const props = defineProps<{ job: Job; station: Station }>()
const settings = useSettings()
const queries = useQueryClient()
const path = { job: props.job.id }
const board = useQuery({
  queryKey: ['fault', props.job.id],
  queryFn: () => ask(api.GET('/api/jobs/{job}/fault', { params: { path } })),
})
const b = computed(() => board.data.value)
const table = ref(false)
const testing = ref<{ test?: BoardTest; start?: Partial<Schemas['TrialText']> } | null>(null)
const parting = ref<{ part?: BoardPart } | null>(null)
const logging = ref(false)
const byHand = ref(false)
const undo = ref<{ text: string; back: () => Promise<Board> } | null>(null)
const idea = ref({ text: '', reason: '' })
const operations = computed(() => [...new Set(b.value?.trials.map((t) => t.text.operation))])
const verdict = computed(() => b.value?.reasoning.verdict)
const decided = computed(() => verdict.value !== undefined && verdict.value.kind !== 'open')
/** A part or pair is named, so that nothing is left to find out. */
const named = computed(() => decided.value && verdict.value!.parts.length > 0)
const leads = computed(() => verdict.value?.kind === 'open' && verdict.value.leads !== 'open')
const settled = computed(() => ['MOSS', 'DASH'].includes(props.station.state))

function use(now: Board): void {
  answered(queries, ['fault', props.job.id], now)
  void queries.invalidateQueries({ queryKey: ['job', props.job.id] })
  void queries.invalidateQueries({ queryKey: ['log'] })
}

const saveTest = useMutation({
  mutationFn: (text: Schemas['TrialText']) => {
    const test = testing.value?.test
    return ask(
      test
        ? api.PUT('/api/jobs/{job}/fault/tests/{id}', {
            params: { path: { ...path, id: test.id }, query: { version: test.version } },
            body: text,
          })
        : api.POST('/api/jobs/{job}/fault/tests', {
            params: { path },
            body: { author: settings.author, text },
          }),
    )
  },
  onSuccess: (now) => {
    use(now)
    dialog.value?.forget()
    testing.value = null
  },
})
const dialog = ref<InstanceType<typeof TestDialog> | null>(null)
const savePart = useMutation({
  mutationFn: (text: Schemas['PartText']) => {
    const part = parting.value?.part
    return ask(
      part
        ? api.PUT('/api/jobs/{job}/fault/parts/{id}', {
            params: { path: { ...path, id: part.id }, query: { version: part.version } },
            body: text,
          })
        : api.POST('/api/jobs/{job}/fault/parts', { params: { path }, body: text }),
    )
  },
  onSuccess: (now) => (use(now), (parting.value = null)),
})
const take = useMutation({
  mutationFn: (what: { kind: 'tests' | 'parts'; id: number; undo: boolean }) =>
    remove(what.kind, what.id, what.undo),
  onSuccess: (now, what) => {
    use(now)
    testing.value = null
    parting.value = null
    undo.value = what.undo
      ? null
      : {
          text: what.kind === 'tests' ? 'The test is off the board.' : 'The part is off the board.',
          back: () => remove(what.kind, what.id, true),
        }
  },
})
const settle = useMutation({
  mutationFn: (early: boolean) =>
    ask(api.POST('/api/jobs/{job}/fault/verdict', { params: { path, query: { early } } })),
  onSuccess: use,
  onSettled: () => staleJob(queries, props.job.id),
})
const drop = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/jobs/{job}/fault/ideas', {
        params: { path },
        body: { author: settings.author, ...idea.value },
      }),
    ),
  onSuccess: (now) => (use(now), (idea.value = { text: '', reason: '' })),
})

// “It worked” and “it failed” are two changes; one test has one answer.
const keepTest = once(saveTest)

function remove(kind: 'tests' | 'parts', id: number, back: boolean): Promise<Board> {
  const params = { path: { ...path, id }, query: { undo: back } }
  return ask(
    kind === 'tests'
      ? api.DELETE('/api/jobs/{job}/fault/tests/{id}', { params })
      : api.DELETE('/api/jobs/{job}/fault/parts/{id}', { params }),
  )
}

async function bring(): Promise<void> {
  const back = undo.value?.back
  undo.value = null
  if (back) use(await back())
}

/** Where it goes on; a job that came from a failed proof goes back to what is not done there. */
const onward = computed(() => {
  if (props.job.verdict.kind === 'other') return { to: 8, text: 'Mend it' }
  if (props.job.verdict.kind === 'beside') return { to: 9, text: 'Mended: prove it again' }
  const open = props.job.stations.find((s) => s.number > 2 && !['MOSS', 'DASH'].includes(s.state))
  if (!open || open.number === 3) return { to: 3, text: 'Rescue the medium' }
  return { to: open.number, text: `Back to ${open.name}` }
})

const problem = (e: Error | null) => (e ? sentence(e) : '')

function doTest(a: Advice): void {
  testing.value = {
    start: { title: a.title, parts: a.parts.map(Number), operation: a.operation },
  }
}

/** The advised test went like this: entered at once, and once, with a way back. */
async function went(a: Advice, outcome: 'WORKS' | 'FAILS'): Promise<void> {
  if (saveTest.isPending.value) return
  const known = new Set(b.value?.trials.map((t) => t.id))
  const now = await saveTest.mutateAsync({
    title: a.title,
    parts: a.parts.map(Number),
    operation: a.operation,
    outcome,
    words: '',
    worked: 0,
    of: 0,
  })
  const entered = now.trials.find((t) => !known.has(t.id))
  if (!entered) return
  undo.value = {
    text: `Test ${entered.number} is on the board: it ${outcome === 'WORKS' ? 'worked' : 'failed'}.`,
    back: () => remove('tests', entered.id, false),
  }
}

/** Gives the parts of an offered group its name. */
const group = useMutation({
  mutationFn: async (o: Schemas['Offer']) => {
    let now = b.value!
    for (const id of o.parts.map(Number)) {
      const part = now.parts.find((p) => p.id === id)!
      now = await ask(
        api.PUT('/api/jobs/{job}/fault/parts/{id}', {
          params: { path: { ...path, id }, query: { version: part.version } },
          body: { ...part.text, group: o.group.slice(0, 40) },
        }),
      )
    }
    return now
  },
  onSuccess: use,
})

useKeys([
  { key: 'N', says: 'enter a test', does: () => (testing.value = {}) },
  { key: 'P', says: 'add a part', does: () => (parting.value = {}) },
  { key: 'T', says: 'the board as a table', does: () => (table.value = !table.value) },
])
</script>

<template>
  <p v-if="board.isError.value" class="sheet p-5 text-brick" role="alert">
    ✕ {{ sentence(board.error.value) }}
  </p>
  <p v-else-if="!b" class="sheet p-5 text-slate">Laying out the board …</p>
  <div v-else class="grid items-start gap-3 lg:grid-cols-[1fr_346px]">
    <section class="sheet min-w-0 p-4">
      <div class="flex flex-wrap items-center gap-2">
        <h2 class="head shrink-0">Evidence board</h2>
        <span class="figure min-w-24 flex-1 basis-0 truncate text-sm text-slate"
          >{{ operations.length === 1 ? `${operations[0]} · ` : '' }}{{ b.trials.length }}
          {{ b.trials.length === 1 ? 'test' : 'tests' }}, {{ b.parts.length }} parts</span
        >
        <button type="button" class="plain shrink-0" @click="testing = {}">
          Test <span class="key">N</span>
        </button>
        <button type="button" class="plain shrink-0" @click="parting = {}">
          Part <span class="key">P</span>
        </button>
        <button type="button" class="plain shrink-0" @click="logging = true">Start-up log</button>
        <button type="button" class="plain shrink-0" :aria-pressed="table" @click="table = !table">
          {{ table ? 'Board' : 'Table' }} <span class="key">T</span>
        </button>
      </div>
      <p v-if="undo" class="mt-2" role="status">
        {{ undo.text }}
        <button type="button" class="text-river underline" @click="bring">Undo</button>
      </p>
      <div class="overflow-x-auto">
        <div class="min-w-[620px]">
          <EvidenceBoard
            :board="b"
            :as-table="table"
            @test="(t) => (testing = { test: t })"
            @part="(p) => (parting = { part: p })"
          />
          <p v-if="!b.trials.length" class="py-6 text-center text-slate">
            No test is on the board. The first one shows the fault, with everything as it came.
          </p>
        </div>
      </div>
      <details class="mt-3">
        <summary class="cursor-pointer text-[15px]">
          Ideas tried and dropped
          <span class="figure text-sm text-slate">{{ b.ideas.length || '' }}</span>
        </summary>
        <p v-for="i in b.ideas" :key="i.id" class="mt-1 text-[15px]">
          <s>{{ i.text }}</s> <span class="text-slate">plausible because {{ i.reason }}</span>
        </p>
        <form class="mt-2 flex gap-2" @submit.prevent="drop.mutate()">
          <input
            v-model="idea.text"
            class="field text-sm"
            required
            maxlength="200"
            placeholder="the idea"
            aria-label="The idea"
          />
          <input
            v-model="idea.reason"
            class="field text-sm"
            required
            maxlength="400"
            placeholder="why it was plausible, and why not"
            aria-label="Why it was plausible"
          />
          <button class="plain shrink-0">Drop it</button>
        </form>
      </details>
    </section>
    <div class="space-y-3">
      <GateLine v-if="!settled" :job="job" />
      <NextTest
        v-if="!settled && !named"
        :reasoning="b.reasoning"
        :first="true"
        @take="doTest"
        @went="went"
      />
      <section
        v-if="settled || decided || leads"
        class="sheet border-l-4 p-4"
        :class="settled ? 'border-l-moss' : 'border-l-lampfill'"
      >
        <p class="font-bold">
          <Why
            :sum="b.reasoning.verdict.sum"
            :text="settled ? station.sentence || 'Not asked.' : b.reasoning.verdict.sentence"
          />
        </p>
        <button
          v-if="!settled"
          type="button"
          class="mt-3"
          :class="named ? 'next' : 'plain'"
          :disabled="settle.isPending.value"
          @click="settle.mutate(!decided)"
        >
          {{
            decided
              ? 'Settle this verdict'
              : `Settle early, at ${(b.reasoning.verdict.odds / 1000).toFixed(2)}`
          }}
        </button>
        <RouterLink v-else :to="`/jobs/${job.id}/${onward.to}`" class="next mt-3 inline-block">
          {{ onward.text }}
        </RouterLink>
        <p v-if="settle.isError.value" class="mt-2 text-brick" role="alert">
          ✕ {{ sentence(settle.error.value) }}
        </p>
      </section>
      <section v-for="o in b.reasoning.offers.slice(0, 1)" :key="o.group" class="sheet p-4">
        <h2 class="head">What they have in common</h2>
        <p class="mt-1">{{ o.sentence }}</p>
        <button type="button" class="plain mt-2" @click="group.mutate(o)">
          Yes, name them as a group
        </button>
      </section>
      <section class="sheet p-4">
        <h2 class="head">What still explains it</h2>
        <p v-if="b.reasoning.doubt" class="mt-1 text-brick" role="alert">
          ≈ {{ b.reasoning.doubt.sentence }}
        </p>
        <p v-if="!b.reasoning.explanations.length" class="mt-1 text-slate">
          {{ b.reasoning.verdict.sentence }}
        </p>
        <ol>
          <li v-for="e in b.reasoning.explanations.slice(0, 5)" :key="e.name" class="mt-2">
            <p class="flex items-baseline justify-between gap-2">
              <strong class="min-w-0"
                >{{ e.name }}
                <span v-if="e.wanders" class="text-sm font-normal text-slate"
                  >≈ comes and goes</span
                ></strong
              >
              <Why
                :sum="e.sum"
                :text="`0.${String(Math.min(999, e.share)).padStart(3, '0').slice(0, 2)}`"
              >
                <span class="figure">{{
                  e.share >= 995 ? '1.00' : `0.${String(e.share).padStart(3, '0').slice(0, 2)}`
                }}</span>
              </Why>
            </p>
            <div class="h-1.5 bg-lampwash" aria-hidden="true">
              <div class="h-full bg-lampfill" :style="{ width: `${e.share / 10}%` }" />
            </div>
            <p class="text-sm text-slate">
              explains {{ e.explains.join(', ')
              }}{{ e.agrees.length ? `; agrees with ${e.agrees.join(', ')}` : '' }}
            </p>
          </li>
        </ol>
        <p
          v-if="b.reasoning.explanations.length > 5 || b.reasoning.others"
          class="mt-2 text-sm text-slate"
        >
          and
          {{
            b.reasoning.explanations.length -
            Math.min(5, b.reasoning.explanations.length) +
            b.reasoning.others
          }}
          less likely ones
        </p>
      </section>
      <NextTest
        v-if="settled || named"
        :reasoning="b.reasoning"
        :first="false"
        @take="doTest"
        @went="went"
      />
      <button
        type="button"
        class="text-[15px] text-river underline"
        :aria-expanded="byHand"
        @click="byHand = !byHand"
      >
        {{ settled ? 'open again, or decide by hand' : 'decide by hand, or do not ask' }}
      </button>
      <HandVerdict v-if="byHand" :job="job" :station="station" />
    </div>
    <TestDialog
      v-if="testing"
      ref="dialog"
      :job="job.id"
      :board="b"
      :test="testing.test"
      :start="testing.start"
      :problem="problem(saveTest.error.value ?? take.error.value)"
      @close="testing = null"
      @save="keepTest"
      @remove="testing?.test && take.mutate({ kind: 'tests', id: testing.test.id, undo: false })"
    />
    <PartDialog
      v-if="parting"
      :board="b"
      :part="parting.part"
      :problem="problem(savePart.error.value ?? take.error.value)"
      @close="parting = null"
      @save="(t) => savePart.mutate(t)"
      @remove="parting?.part && take.mutate({ kind: 'parts', id: parting.part.id, undo: false })"
    />
    <StartLogDialog v-if="logging" @close="logging = false" />
  </div>
</template>
