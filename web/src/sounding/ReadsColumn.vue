<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { count } from '../shed/units'
import { spread } from './depth'
import Patterns from './Patterns.vue'
import { near, pegs, type Peg, type Read, readDepth } from './reads'

/**
 * The reads of a start as numbered pegs on the drive, from sector 0 to the deepest of them; arrow
 * keys go through them one by one.
 */
const props = defineProps<{ reads: Read[]; parts: Schemas['Stretch'][] }>()
/** The read that is looked at, counted from 1; 0 for none. */
const at = defineModel<number>('at', { required: true })
const asTable = ref(false)
const TOP = 10
const HIGH = 300
const LEFT = 82
const WIDE = 72
const LINE = 20
const ROOM = 14
const FILLS = ['diagonal', 'dots', 'cross', 'level']

const first = computed(() => props.reads.filter((r) => !r.second))
/** Down to the deepest read, and into the first volume. */
const deepest = computed(() =>
  Math.max(
    1,
    ...first.value.map((r) => r.lba + r.sectors),
    ...props.parts.slice(0, 1).map((p) => 2 * p.start),
  ),
)
const y = (lba: number) => TOP + readDepth(lba, deepest.value) * HIGH
const strata = computed(() =>
  props.parts
    .filter((p) => p.start < deepest.value)
    .map((p) => ({ ...p, top: y(p.start), high: Math.max(2, y(p.start + p.length) - y(p.start)) })),
)
const all = computed(() => pegs(props.reads))
const shown = computed(() => {
  const some = near(all.value, at.value, ROOM)
  // On the drive from the top down, whatever the order in which they were read.
  const sorted = [...some].sort((a, b) => a.lba - b.lba)
  const places = spread(
    sorted.map((p) => (p.second ? TOP : y(p.lba))),
    LINE,
    TOP,
    TOP + HIGH,
  )
  return sorted.map((p, i) => ({ ...p, y: y(p.lba), label: places[i], now: holds(p) }))
})
const scale = computed(() => {
  const out = [0]
  for (const s of [63, 255, 1023, 16_383, 262_143, 4_194_303]) if (s < deepest.value) out.push(s)
  return [...out, deepest.value].reduce<{ s: number; y: number }[]>((kept, s, i) => {
    const here = { s, y: y(s) }
    const room = i === 0 || here.y - kept[kept.length - 1].y > 24
    return room ? [...kept, here] : kept
  }, [])
})
const read = computed(() => props.reads[at.value - 1])
function holds(p: Peg): boolean {
  return at.value >= p.first && at.value <= p.last
}
function step(by: number): void {
  at.value = Math.max(1, Math.min(props.reads.length, at.value + by))
}
const numbers = (p: Peg) => (p.first === p.last ? `${p.first}` : `${p.first}–${p.last}`)
const words = (r: { what: string; refused: boolean }) =>
  `${r.refused ? '✕ refused: ' : ''}${r.what || 'nothing known'}`
</script>

<template>
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
    <div class="flex flex-wrap items-center justify-between gap-x-3">
      <h3 class="head">
        Where it read <span class="text-sm font-normal text-slate">by sector</span>
      </h3>
      <span class="text-sm text-slate">
        <button type="button" class="mr-3" @click="asTable = !asTable">
          as a {{ asTable ? 'drawing' : 'table' }}
        </button>
        step
        <button type="button" class="key" aria-label="The read before" @click="step(-1)">←</button>
        <button type="button" class="key ml-1" aria-label="The next read" @click="step(1)">
          →
        </button>
      </span>
    </div>
    <p v-if="!reads.length" class="text-slate">It reads nothing.</p>
    <div
      v-show="reads.length && !asTable"
      class="relative mt-1"
      :style="{ height: `${HIGH + 24}px` }"
    >
      <svg class="absolute inset-0 h-full w-full" aria-hidden="true">
        <Patterns />
        <g class="figure" font-size="13" fill="var(--slate)">
          <g v-for="m in scale" :key="m.s">
            <text :x="LEFT - 12" :y="m.y + 4" text-anchor="end">{{ count(m.s) }}</text>
            <path :d="`M${LEFT - 8} ${m.y}h8`" stroke="var(--slate)" />
          </g>
        </g>
        <rect
          :x="LEFT"
          :y="TOP"
          :width="WIDE"
          :height="HIGH"
          fill="var(--paper)"
          stroke="var(--slate)"
        />
        <rect
          v-for="(s, i) in strata"
          :key="s.start"
          :x="LEFT"
          :y="s.top"
          :width="WIDE"
          :height="s.high"
          :fill="`url(#${FILLS[i % 4]})`"
          stroke="var(--ink)"
        />
        <circle
          v-for="(p, i) in all.filter((x) => !x.second)"
          :key="`dot${i}`"
          :cx="LEFT + WIDE"
          :cy="y(p.lba)"
          r="3"
          :fill="p.refused ? 'var(--brick)' : 'var(--river)'"
        />
        <g v-for="p in shown" :key="p.first">
          <path
            v-if="!p.second"
            :d="`M${LEFT + WIDE} ${p.y}h8L${LEFT + WIDE + 22} ${p.label}h8`"
            fill="none"
            :stroke="p.refused ? 'var(--brick)' : 'var(--river)'"
            :stroke-width="p.now ? 2.5 : 1"
          />
          <circle
            v-if="p.now && !p.second"
            :cx="LEFT + WIDE"
            :cy="read && !read.second ? y(read.lba) : p.y"
            r="6"
            :fill="p.refused ? 'var(--brick)' : 'var(--river)'"
          />
        </g>
      </svg>
      <button
        v-for="p in shown"
        :key="`name${p.first}`"
        type="button"
        tabindex="-1"
        class="absolute flex gap-2 rounded px-1 text-left text-[14px] leading-[19px]"
        :class="[p.now ? 'bg-lampwash font-bold' : '', p.refused ? 'text-brick' : '']"
        :style="{ left: `${LEFT + WIDE + 32}px`, top: `${p.label - 10}px`, right: 0 }"
        :aria-current="p.now || undefined"
        @click="at = p.first"
      >
        <span class="figure shrink-0">{{ numbers(p) }}</span>
        <span class="figure min-w-0 truncate" :title="words(p)">{{ words(p) }}</span>
      </button>
    </div>
    <!-- A table takes no width from a class; out of sight it needs a box that cuts it off. -->
    <div :class="asTable ? 'mt-1 max-h-80 overflow-auto' : 'sr-only'">
      <table class="w-full text-[15px]">
        <thead>
          <tr class="text-left text-sm text-slate">
            <th>#</th>
            <th>asked as</th>
            <th class="text-right">sector</th>
            <th class="pl-3">what lies there</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(r, i) in reads"
            :key="i"
            class="cursor-pointer border-t border-rule"
            :class="i + 1 === at ? 'bg-lampwash font-bold' : ''"
            :aria-current="i + 1 === at || undefined"
            @click="at = i + 1"
          >
            <td class="figure py-0.5 pr-2">{{ i + 1 }}</td>
            <td class="figure pr-2 whitespace-nowrap">{{ r.asked }}</td>
            <td class="figure text-right whitespace-nowrap">{{ count(r.lba) }}</td>
            <td class="figure pl-3" :class="r.refused ? 'text-brick' : ''">{{ words(r) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="read" class="mt-1 text-[15px]" aria-live="polite">
      <strong class="figure">{{ at }}</strong> sector
      <span class="figure">{{ count(read.lba) }}</span> · {{ words(read) }}
      <span class="block text-sm text-slate"
        >asked as <span class="figure">{{ read.asked }}</span>, {{ read.sectors }}
        {{ read.sectors === 1 ? 'sector' : 'sectors' }}, by the code at
        <span class="figure">{{ read.from }}</span></span
      >
    </p>
  </div>
</template>
