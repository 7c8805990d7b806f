<script setup lang="ts">
import { computed } from 'vue'
import type { Board, BoardPart, BoardTest } from '../../api/client'
import { OUTCOMES as MARKS, outcomeWord } from './outcomes'

/**
 * Tests down, parts across. A cord joins the parts of a test; below, what each part stands at; brackets join parts
 * that do not work together. The same as a table for whoever cannot see it.
 */
const props = defineProps<{ board: Board; asTable: boolean }>()
const emit = defineEmits<{ test: [BoardTest]; part: [BoardPart] }>()

const inTrial = (t: BoardTest, p: BoardPart) => t.text.parts.includes(p.id)
const doubtful = (t: BoardTest) => props.board.reasoning.doubt?.trials.includes(t.number) ?? false

function span(t: BoardTest): { left: string; right: string } {
  const at = props.board.parts.flatMap((p, i) => (inTrial(t, p) ? [i] : []))
  const n = props.board.parts.length
  return {
    left: `${((Math.min(...at) + 0.5) / n) * 100}%`,
    right: `${((n - Math.max(...at) - 0.5) / n) * 100}%`,
  }
}

const tells = (t: BoardTest) => t.text.outcome !== 'NOTED' && t.text.outcome !== 'CHANGED'

function cord(t: BoardTest): string {
  return t.text.outcome === 'WORKS' ? 'bg-moss' : tells(t) ? 'bg-brick' : 'bg-rule'
}

function knot(t: BoardTest): string {
  if (t.text.outcome === 'WORKS') return 'rounded-full bg-moss text-sheet'
  if (!tells(t)) return 'rounded-full border border-slate bg-sheet text-slate'
  return 'rounded-[3px] border-2 border-brick bg-sheet text-brick'
}

/** What stands below a part's column. */
function foot(p: BoardPart): { text: string; tone: string } {
  const by = p.state.clearedBy.join(',')
  const odds = `.${String(Math.min(99, Math.round(p.state.share / 10))).padStart(2, '0')}`
  if (p.state.state === 'left') return { text: odds, tone: 'text-lamp font-bold' }
  if (p.state.state === 'pair') return { text: '×', tone: 'text-lamp' }
  if (p.state.state === 'cleared') return { text: by || '✓', tone: 'text-moss' }
  return { text: '–', tone: 'text-slate' }
}

const brackets = computed(() => {
  const n = props.board.parts.length
  return props.board.reasoning.explanations
    .slice(0, 3)
    .flatMap((e) => e.causes)
    .filter((c) => c.parts.length > 1)
    .slice(0, 3)
    .map((c) => {
      const at = c.parts.map((id) => props.board.parts.findIndex((p) => String(p.id) === id))
      return { name: c.name, at: at.map((i) => ((i + 0.5) / n) * 100) }
    })
})
const oneOperation = computed(
  () => new Set(props.board.trials.map((t) => t.text.operation)).size < 2,
)
const top = computed(
  () => new Set(props.board.reasoning.explanations[0]?.causes.flatMap((c) => c.parts) ?? []),
)
</script>

<template>
  <table v-if="asTable" class="w-full text-left text-[15px]">
    <caption class="sr-only">
      Tests and the parts that took part
    </caption>
    <thead>
      <tr class="border-b border-rule text-sm text-slate">
        <th class="py-1 pr-2">Test</th>
        <th class="pr-2">What was asked</th>
        <th class="pr-2">Outcome</th>
        <th>Parts</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="t in board.trials" :key="t.id" class="border-b border-rule align-top">
        <td class="py-1 pr-2">{{ t.number }} {{ t.text.title }}</td>
        <td class="pr-2">{{ t.text.operation }}</td>
        <td class="pr-2" :class="MARKS[t.text.outcome].tone">
          {{ MARKS[t.text.outcome].mark }} {{ outcomeWord(t.text) }} {{ t.text.words }}
        </td>
        <td>
          {{
            board.parts
              .filter((p) => inTrial(t, p))
              .map((p) => p.text.name)
              .join(', ')
          }}
        </td>
      </tr>
    </tbody>
    <tbody>
      <tr v-for="p in board.parts" :key="p.id" class="border-b border-rule align-top">
        <th class="py-1 pr-2" scope="row">{{ p.text.name }}</th>
        <td class="pr-2" colspan="3">{{ foot(p).text }}: {{ p.state.because }}</td>
      </tr>
    </tbody>
  </table>
  <div v-else>
    <!-- names of the parts, slanted so that twenty find room -->
    <div class="flex">
      <div class="w-[240px] shrink-0" />
      <div class="relative flex h-[122px] grow" role="presentation">
        <div v-for="p in board.parts" :key="p.id" class="relative min-w-0 grow basis-0">
          <button
            type="button"
            class="absolute bottom-1 left-1/2 origin-bottom-left -rotate-52 text-left text-[14px] leading-none whitespace-nowrap hover:text-river"
            :class="p.state.state === 'left' || top.has(String(p.id)) ? 'font-bold' : ''"
            :title="p.state.because"
            @click="emit('part', p)"
          >
            {{ p.text.name.length > 21 ? p.text.name.slice(0, 20) + '…' : p.text.name }}
          </button>
        </div>
      </div>
      <div class="shrink-0" :class="oneOperation ? 'w-16' : 'w-24'" />
    </div>
    <div class="relative">
      <!-- columns: a hairline each, a lamp band under the first suspect -->
      <div
        class="pointer-events-none absolute inset-y-0 left-[240px] flex"
        :class="oneOperation ? 'right-16' : 'right-24'"
        aria-hidden="true"
      >
        <div
          v-for="p in board.parts"
          :key="p.id"
          class="relative grow basis-0 before:absolute before:inset-y-0 before:left-1/2 before:w-px before:bg-rule"
        >
          <div
            v-if="top.has(String(p.id))"
            class="absolute inset-y-0 left-1/2 w-2.5 -translate-x-1/2 bg-lampfill/40"
          />
        </div>
      </div>
      <button
        v-for="t in board.trials"
        :key="t.id"
        type="button"
        class="relative flex w-full items-center border-b border-rule text-left hover:bg-lampwash"
        :class="[
          board.trials.length > 12 ? 'h-8' : 'h-[44px]',
          doubtful(t) ? 'outline-2 outline-brick' : '',
        ]"
        @click="emit('test', t)"
      >
        <span class="w-[240px] shrink-0 pr-2 text-[15px] leading-tight">
          <span class="block truncate"
            ><span class="figure mr-1 text-sm text-slate">{{ t.number }}</span>
            {{ t.text.title }}</span
          >
          <span
            v-if="board.trials.length <= 12"
            class="block truncate pl-4 text-sm"
            :class="MARKS[t.text.outcome].tone"
          >
            {{ MARKS[t.text.outcome].mark }}
            <strong class="mr-1">{{ outcomeWord(t.text) }}</strong>
            <span class="text-slate"> {{ t.text.words }}</span>
          </span>
          <span v-else class="sr-only">{{ outcomeWord(t.text) }}</span>
        </span>
        <span class="relative flex h-full grow items-center" aria-hidden="true">
          <span class="absolute top-1/2 h-px" :class="cord(t)" :style="span(t)" />
          <span v-for="p in board.parts" :key="p.id" class="flex grow basis-0 justify-center">
            <span
              v-if="inTrial(t, p)"
              class="relative flex h-[18px] w-[18px] items-center justify-center text-[11px] leading-none font-bold"
              :class="knot(t)"
              >{{ t.text.outcome === 'WORKS' ? '' : MARKS[t.text.outcome].mark }}</span
            >
          </span>
        </span>
        <span
          class="shrink-0 pl-2 text-[13px] leading-tight text-slate"
          :class="oneOperation ? 'w-16' : 'w-24'"
          >{{ oneOperation ? '' : t.text.operation }}</span
        >
      </button>
    </div>
    <div class="flex items-start pt-1">
      <span class="w-[240px] shrink-0 pr-2 text-[14px] leading-tight text-slate"
        >how likely it is the fault, or cleared by test</span
      >
      <span class="flex grow">
        <span
          v-for="p in board.parts"
          :key="p.id"
          class="figure min-w-0 grow basis-0 text-center text-[13px] leading-tight break-words"
          :class="foot(p).tone"
          :title="p.state.because"
          >{{ foot(p).text }}</span
        >
      </span>
      <span class="shrink-0" :class="oneOperation ? 'w-16' : 'w-24'" />
    </div>
    <div v-for="(b, i) in brackets" :key="b.name" class="flex items-center">
      <span class="w-[240px] shrink-0 truncate pr-2 text-[14px] text-lamp">{{
        i === 0 ? 'do not work together' : 'or these do not'
      }}</span>
      <span class="relative h-4 grow" :title="b.name">
        <span
          v-for="x in b.at"
          :key="x"
          class="absolute top-0 h-2 w-0.5 bg-lampfill"
          :style="{ left: `${x}%` }"
        />
        <span
          class="absolute top-2 h-0.5 bg-lampfill"
          :style="{ left: `${Math.min(...b.at)}%`, right: `${100 - Math.max(...b.at)}%` }"
        />
      </span>
      <span class="shrink-0" :class="oneOperation ? 'w-16' : 'w-24'" />
    </div>
  </div>
</template>
