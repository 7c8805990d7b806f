<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, reactive, ref } from 'vue'
import { answered } from '../api/answered'
import { api, ask, sentence, type Schemas } from '../api/client'
import Why from '../because/Why.vue'
import { useUndo } from '../shed/undo'

/** Speeds and times before and after: what was taken, what changed, what the bus carries. */
const props = defineProps<{ job: number; after: boolean }>()
const queries = useQueryClient()
const undo = useUndo()
const key = computed(() => ['timings', props.job])
const asked = useQuery({
  queryKey: key,
  queryFn: () => ask(api.GET('/api/jobs/{job}/timings', { params: { path: { job: props.job } } })),
})
const v = computed(() => asked.data.value)
const typing = ref(false)
const now = reactive({
  kind: 'READ' as Schemas['NewTiming']['kind'],
  text: '',
  system: '',
  tool: '',
})
const example = computed(() => v.value?.kinds.find((k) => k.kind === now.kind)?.example ?? '')
const mine = computed(() => v.value?.timings.filter((t) => t.after === props.after) ?? [])

function open(): void {
  typing.value = true
  // Whoever takes one takes the next with the same system and tool.
  const last = v.value?.timings[v.value.timings.length - 1]
  if (last && !now.system && !now.tool) Object.assign(now, { system: last.system, tool: last.tool })
}
const add = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/jobs/{job}/timings', {
        params: { path: { job: props.job } },
        body: { ...now, after: props.after },
      }),
    ),
  onSuccess: (view) => {
    answered(queries, key.value, view)
    now.text = ''
  },
})
function change(id: number, back: boolean) {
  return ask(
    api.DELETE('/api/jobs/{job}/timings/{id}', {
      params: { path: { job: props.job, id }, query: { undo: back } },
    }),
  ).then((view) => answered(queries, key.value, view))
}
async function remove(t: Schemas['TimingView']): Promise<void> {
  await change(t.id, false)
  undo.offer(`${t.text} is taken out.`, () => change(t.id, true))
}

const MARK: Record<Schemas['SpeedRow']['verdict'], { mark: string; word: string; tone: string }> = {
  FASTER: { mark: '✓', word: 'faster', tone: 'text-moss' },
  SLOWER: { mark: '▲', word: 'slower', tone: 'text-brick' },
  ALIKE: { mark: '=', word: 'alike', tone: 'text-slate' },
  ONLY_BEFORE: { mark: '○', word: 'before only', tone: 'text-lamp' },
  ONLY_AFTER: { mark: '○', word: 'after only', tone: 'text-slate' },
  NOT_COMPARABLE: { mark: '≠', word: 'not comparable', tone: 'text-lamp' },
}
/** How long the longest bar of a row is; the bus's limit is drawn where it lies within four times that. */
function scale(r: Schemas['SpeedRow']): number {
  const most = Math.max(r.before.high, r.after.high)
  return limitShown(r, most) ? Math.max(most, v.value?.limitBytes ?? 0) : most
}
function limitShown(r: Schemas['SpeedRow'], most = Math.max(r.before.high, r.after.high)): boolean {
  const limit = v.value?.limitBytes ?? 0
  return r.measure === 'RATE' && limit > 0 && limit < most * 4
}
const part = (x: number, r: Schemas['SpeedRow']) => `${(100 * x) / scale(r)}%`
</script>

<template>
  <section v-if="v" class="sheet p-4">
    <div class="flex items-center justify-between gap-3">
      <h2 class="head">{{ after ? 'Before and after' : 'How fast it is before' }}</h2>
      <button v-if="!typing" type="button" class="plain" @click="open">Add a figure</button>
    </div>
    <p v-if="!after && !mine.length" class="mt-1 text-sm text-slate">
      Where it still runs: take speeds and the time to the prompt before it is opened, three times
      each. Afterwards nobody can.
    </p>
    <p v-if="after && !v.rows.length" class="mt-1 text-sm text-slate">
      Nothing was timed. Seconds to the prompt are worth a line.
    </p>
    <form v-if="typing" class="mt-2 grid grid-cols-2 gap-2" @submit.prevent="add.mutate()">
      <label class="text-sm"
        >what
        <select v-model="now.kind" class="field mt-1 h-9 py-0!">
          <option v-for="k in v.kinds" :key="k.kind" :value="k.kind">{{ k.words }}</option>
        </select></label
      >
      <label class="text-sm"
        >figure with its unit
        <input
          v-model="now.text"
          class="field figure mt-1 h-9"
          maxlength="60"
          required
          :placeholder="example"
      /></label>
      <label class="text-sm"
        >system <input v-model="now.system" class="field mt-1 h-9" maxlength="80"
      /></label>
      <label class="text-sm"
        >test tool
        <input v-model="now.tool" class="field mt-1 h-9" maxlength="80" placeholder="a clock"
      /></label>
      <p v-if="add.isError.value" class="col-span-2 text-sm text-brick" role="alert">
        ✕ {{ sentence(add.error.value) }}
      </p>
      <div class="col-span-2 flex gap-2">
        <button type="submit" class="plain" :disabled="add.isPending.value">Keep it</button>
        <button type="button" class="plain" @click="typing = false">Enough</button>
      </div>
    </form>
    <ul v-if="!after && mine.length" class="mt-2 divide-y divide-rule text-[15px]">
      <li v-for="t in mine" :key="t.id" class="flex items-baseline justify-between gap-2 py-1">
        <span
          >{{ v.kinds.find((k) => k.kind === t.kind)?.words }}
          <strong class="figure">{{ t.text }}</strong>
          <span v-if="t.tool || t.system" class="block text-sm text-slate">{{
            [t.tool, t.system].filter(Boolean).join(', ')
          }}</span></span
        >
        <button
          type="button"
          class="text-sm text-river underline"
          :aria-label="`take out ${t.text}`"
          @click="remove(t)"
        >
          take out
        </button>
      </li>
    </ul>
    <ul v-if="after && v.rows.length" class="mt-2 space-y-3">
      <li v-for="r in v.rows" :key="r.kind + r.measure + r.system + r.tool">
        <div class="flex items-baseline justify-between gap-2">
          <span
            >{{ r.name }}
            <span v-if="r.tool || r.system" class="block text-sm text-slate">{{
              [r.tool, r.system].filter(Boolean).join(', ')
            }}</span></span
          >
          <span class="shrink-0" :class="MARK[r.verdict].tone"
            >{{ MARK[r.verdict].mark }}
            <Why
              class="figure"
              :sum="r.because"
              :text="[r.change, MARK[r.verdict].word].filter(Boolean).join(' ')"
          /></span>
        </div>
        <div class="relative mt-1 space-y-1">
          <div
            v-for="side in (['before', 'after'] as const).filter((s) => r[s].count)"
            :key="side"
            class="flex items-center gap-2 text-sm"
          >
            <span class="w-12 shrink-0 text-slate">{{ side }}</span>
            <span class="relative h-4 grow" aria-hidden="true">
              <span
                class="absolute inset-y-0.5 left-0 rounded-r-sm"
                :class="side === 'before' ? 'border border-slate' : 'bg-river'"
                :style="{ width: part(r[side].middle, r) }"
              />
              <span
                v-if="r[side].count > 1"
                class="absolute top-1/2 h-0 border-t-2 border-ink"
                :style="{ left: part(r[side].low, r), width: part(r[side].high - r[side].low, r) }"
              />
              <span
                v-if="limitShown(r)"
                class="absolute inset-y-0 border-l-2 border-dashed border-plum"
                :style="{ left: part(v.limitBytes, r) }"
              />
            </span>
            <span class="figure w-36 shrink-0 text-right"
              >{{ r[side].text }}
              <span v-if="r[side].count > 1" class="text-slate">×{{ r[side].count }}</span></span
            >
          </div>
        </div>
        <p v-if="r.sentence" class="mt-1 text-sm">{{ r.sentence }}</p>
      </li>
    </ul>
    <p v-if="after && v.limit && v.rows.length" class="mt-2 text-sm text-plum">
      ┆ at most {{ v.limit }}
    </p>
    <details v-if="after && mine.length" class="mt-2 text-sm">
      <summary class="cursor-pointer text-river underline">
        figures taken with the card: {{ mine.length }}
      </summary>
      <ul class="mt-1">
        <li v-for="t in mine" :key="t.id" class="flex justify-between gap-2 py-0.5">
          <span
            >{{ v.kinds.find((k) => k.kind === t.kind)?.words }}
            <strong class="figure">{{ t.text }}</strong></span
          >
          <button
            type="button"
            class="text-river underline"
            :aria-label="`take out ${t.text}`"
            @click="remove(t)"
          >
            take out
          </button>
        </li>
      </ul>
    </details>
  </section>
</template>
