<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Peg, Range } from '../api/client'
import Why from '../because/Why.vue'
import { useKeys } from '../shed/keys'
import { type Geometry, inUnit, useUnit } from '../shed/units'
import { depth, marks as scaleMarks, sectorAt, spread, stack } from './depth'

export interface Stratum {
  letter: string
  label: string
  start: number
  end: number
  note?: string
  /** What stands beside it, a line each; the first is its heading. */
  facts?: string[]
}

/** The medium that the content comes from, and where each of its volumes goes. */
export interface Old {
  total: number
  strata: Stratum[]
  /** From an old stratum to a new one, with what is to be said of it. */
  ribbons: { from: number; to: number; lines: string[] }[]
}

/** A place with a name: what a hole hits. */
export interface Mark {
  at: number
  text: string
  note: string
}

/**
 * A medium as a column that goes down from sector 0: volumes as strata, every ceiling a peg at its depth,
 * dark water below the lowest. The same column shows a rescue, with holes where nothing came back.
 */
const props = withDefaults(
  defineProps<{
    title: string
    note?: string
    total: number
    strata: Stratum[]
    pegs?: Peg[]
    binding?: Peg
    reach?: number
    ranges?: Range[]
    /** Nanoseconds a sector of the slowest read in each part of the medium, from the top. */
    slowest?: number[]
    marks?: Mark[]
    movable?: boolean
    geometry?: Geometry
    straight?: boolean
    old?: Old
  }>(),
  {
    note: '',
    pegs: () => [],
    binding: undefined,
    reach: undefined,
    ranges: () => [],
    slowest: () => [],
    marks: () => [],
    movable: false,
    geometry: undefined,
    straight: false,
    old: undefined,
  },
)
const emit = defineEmits<{ move: [index: number, end: number] }>()

const TOP = 12
const SCALE = 104
const OLD_WIDE = 96
const RIBBON = 150
const LINE = 19
const STRIP = 34
const GAP = 40
/** What hatching and bars mean where a rescue is drawn. */
const LEGEND = [
  { fill: 'url(#read)', words: 'read' },
  { fill: 'var(--lampfill)', words: 'read on a retry, or slowly' },
  { fill: 'var(--brick)', words: 'failed' },
  { fill: 'url(#water)', words: 'not read' },
  { fill: 'var(--river)', words: 'the longer the bar, the slower' },
]
const FILLS = ['diagonal', 'dots', 'cross', 'level']
const unit = useUnit()
const log = ref(!props.straight)
const asTable = ref(false)
const box = ref<HTMLElement | null>(null)
const { height: boxHeight } = useElementSize(box)
/** Old and new side by side need one straight depth. */
const both = computed(() => (props.old && !log.value ? props.old : undefined))
const LEFT = computed(() => SCALE + (both.value ? OLD_WIDE + RIBBON : 0))
const WIDE = computed(() => (both.value ? 124 : 150))
/** What the straight scale covers: all that is used. Water below it is drawn short, with its size. */
const span = computed(() =>
  log.value
    ? props.total
    : Math.min(
        Math.max(props.total, props.old?.total ?? 0),
        Math.max(props.reach ?? props.total, props.old?.total ?? 0),
      ),
)
const strip = computed(() => (props.total > span.value ? STRIP : 0))
const high = computed(() => Math.max(220, boxHeight.value - TOP * 2 - strip.value))
const y = (sector: number) =>
  TOP + depth(Math.min(sector, span.value), span.value, log.value) * high.value
const bottom = computed(
  () => Math.min(TOP + high.value, y(props.total)) + (props.total > span.value ? strip.value : 0),
)
/** A name within its stratum; whole it stands beside it. */
const clipped = (name: string) => {
  const most = Math.floor((WIDE.value - 30) / 9)
  return name.length > most ? `${name.slice(0, most - 1)}…` : name
}
const text = (sectors: number) => inUnit(sectors, unit.unit, props.geometry)

useKeys([
  { key: 'G', says: 'depth: logarithmic or straight', does: () => (log.value = !log.value) },
  { key: 'T', says: 'the sounding as a table', does: () => (asTable.value = !asTable.value) },
])

const scale = computed(() => {
  const all = scaleMarks(span.value, log.value).map((s) => ({ s, y: y(s) }))
  return all.filter((m, i) => i === 0 || m.y - all[i - 1].y > 14)
})
/** Ceilings that the scale does not reach are a list under the drawing. */
const far = computed(() =>
  log.value || !props.pegs.length
    ? []
    : [...props.pegs]
        .filter((p) => p.sectors > span.value && !binds(p))
        .sort((a, b) => a.sectors - b.sectors),
)
const binds = (p: Peg) => p.rule === props.binding?.rule && p.sectors === props.binding?.sectors

/** What stands to the right of the column, none on another: facts of the strata, and the pegs. */
const beside = computed(() => {
  const facts = props.strata.flatMap((s, i) =>
    s.facts && !log.value
      ? [
          {
            key: `s${i}`,
            wanted: y(s.start) - 2,
            height: s.facts.length * LINE + 8,
            facts: s.facts,
          },
        ]
      : [],
  )
  const pegs = [...props.pegs]
    .filter((p) => !far.value.includes(p))
    .sort((a, b) => a.sectors - b.sectors)
    .map((peg) => ({
      key: `p${peg.rule}${peg.sectors}`,
      wanted: y(peg.sectors) - 14,
      height: GAP,
      peg,
      at: y(peg.sectors),
      binds: binds(peg),
      beyond: peg.sectors > props.total,
    }))
  const all = [...facts, ...pegs].sort((a, b) => a.wanted - b.wanted)
  const places = stack(all, TOP - 4, TOP + high.value + strip.value + 8)
  return all.map((x, i) => ({ ...x, top: places[i] }))
})
const pegsShown = computed(() =>
  beside.value.flatMap((x) => ('peg' in x ? [{ ...x, label: x.top + 10 }] : [])),
)
const factsShown = computed(() => beside.value.flatMap((x) => ('facts' in x ? [x] : [])))
const ribbonsShown = computed(() => {
  const o = both.value
  if (!o) return []
  return o.ribbons.map((r) => {
    const from = o.strata[r.from]
    const to = props.strata[r.to]
    const x1 = SCALE + OLD_WIDE
    const x2 = LEFT.value
    const mid = (x1 + x2) / 2
    const [a, b, c, d] = [y(from.start), y(from.end), y(to.start), y(to.end)]
    return {
      path: `M${x1} ${a}C${mid} ${a} ${mid} ${c} ${x2} ${c}V${d}C${mid} ${d} ${mid} ${b} ${x1} ${b}Z`,
      lines: r.lines,
      top: Math.min((a + Math.min(b, d)) / 2, TOP + high.value - r.lines.length * LINE) - 10,
    }
  })
})
const marksShown = computed(() => {
  const sorted = [...props.marks].sort((a, b) => a.at - b.at)
  const places = spread(
    sorted.map((m) => y(m.at)),
    GAP,
    TOP + 8,
    TOP + high.value - 24,
  )
  return sorted.map((m, i) => ({ ...m, y: y(m.at), label: places[i] }))
})
const water = computed(() =>
  props.reach !== undefined && props.reach < props.total ? y(props.reach) : undefined,
)
/** Read time as the distance from the line, logarithmic: twice as far is ten times slower. */
const times = computed(() => {
  const parts = props.slowest
  const least = Math.min(...parts.filter((t) => t > 0))
  return parts.flatMap((t, i) => {
    if (t <= 0) return []
    const top = y((i * props.total) / parts.length)
    const far = Math.min(WIDE.value - 8, 4 + Math.log10(t / least) * 34)
    return [
      {
        y: top,
        h: Math.max(1, y(((i + 1) * props.total) / parts.length) - top),
        far,
        slow: t > 4 * least,
      },
    ]
  })
})
const bands = computed(() => props.ranges.filter((r) => r.state !== 'READ'))

let dragging = -1
function grab(index: number, e: PointerEvent): void {
  if (!props.movable) return
  dragging = index
  ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
}
function drag(e: PointerEvent): void {
  if (dragging < 0) return
  const svg = (e.currentTarget as Element).closest('svg')
  if (!svg) return
  const at = (e.clientY - svg.getBoundingClientRect().top - TOP) / high.value
  emit('move', dragging, sectorAt(at, span.value, log.value))
}
function step(index: number, by: number): void {
  const cylinder = props.geometry ? props.geometry.heads * props.geometry.sectors : 2048
  emit('move', index, props.strata[index].end + by * cylinder)
}
</script>

<template>
  <section class="sheet flex min-h-0 min-w-0 flex-col p-4" :aria-label="title">
    <div class="flex flex-wrap items-baseline gap-x-3 sm:flex-nowrap">
      <h2 class="head shrink-0">{{ title }}</h2>
      <span class="min-w-0 truncate text-sm text-slate">{{ note }}</span>
      <span class="grow" />
      <button type="button" class="shrink-0 text-sm text-slate" @click="asTable = !asTable">
        as a {{ asTable ? 'drawing' : 'table' }} <span class="key">T</span>
      </button>
      <button type="button" class="shrink-0 text-sm text-slate" @click="log = !log">
        depth: {{ log ? 'log' : 'straight' }} <span class="key">G</span>
      </button>
    </div>
    <div v-show="!asTable" class="flex grow overflow-x-auto">
      <div ref="box" class="relative min-h-[340px] min-w-[520px] grow">
        <svg class="absolute inset-0 h-full w-full" role="group" :aria-label="`${title}, drawn`">
          <defs>
            <pattern id="diagonal" width="9" height="9" patternUnits="userSpaceOnUse">
              <rect width="9" height="9" fill="var(--lampwash)" />
              <path d="M-2 11 11-2M-2 2 2-2M7 11l4-4" stroke="var(--lampfill)" stroke-width="1.6" />
            </pattern>
            <pattern id="dots" width="9" height="9" patternUnits="userSpaceOnUse">
              <rect width="9" height="9" fill="var(--sheet)" />
              <circle cx="4" cy="4" r="1.3" fill="var(--moss)" />
            </pattern>
            <pattern id="cross" width="10" height="10" patternUnits="userSpaceOnUse">
              <rect width="10" height="10" fill="var(--sheet)" />
              <path d="M3 5h4M5 3v4" stroke="var(--river)" stroke-width="1.2" />
            </pattern>
            <pattern id="level" width="10" height="7" patternUnits="userSpaceOnUse">
              <rect width="10" height="7" fill="var(--sheet)" />
              <path d="M0 4h10" stroke="var(--plum)" stroke-width="1.2" />
            </pattern>
            <pattern id="water" width="16" height="9" patternUnits="userSpaceOnUse">
              <rect width="16" height="9" fill="var(--deep)" />
              <path d="M0 5q4-3 8 0t8 0" fill="none" stroke="#5d7482" stroke-width="0.9" />
            </pattern>
            <pattern id="read" width="8" height="8" patternUnits="userSpaceOnUse">
              <rect width="8" height="8" fill="var(--sheet)" />
              <path d="M0 8 8 0" stroke="var(--moss)" stroke-width="1" />
            </pattern>
          </defs>
          <g class="figure" font-size="14" fill="var(--slate)">
            <g v-for="m in scale" :key="m.s">
              <text :x="SCALE - 14" :y="m.y + 5" text-anchor="end">{{ text(m.s) }}</text>
              <path :d="`M${SCALE - 8} ${m.y}h8`" stroke="var(--slate)" />
            </g>
          </g>
          <rect
            :x="LEFT"
            :y="TOP"
            :width="WIDE"
            :height="bottom - TOP"
            :fill="ranges.length ? 'url(#read)' : 'var(--paper)'"
            stroke="var(--slate)"
          />
          <template v-if="ranges.length">
            <rect
              v-for="r in bands"
              :key="r.start"
              :x="r.state === 'FAILED' ? LEFT - 6 : LEFT"
              :y="y(r.start)"
              :width="r.state === 'FAILED' ? WIDE + 12 : WIDE"
              :height="Math.max(r.state === 'UNREAD' ? 0.5 : 3, y(r.start + r.length) - y(r.start))"
              :fill="
                r.state === 'UNREAD'
                  ? 'url(#water)'
                  : r.state === 'LATE'
                    ? 'var(--lampfill)'
                    : 'var(--brick)'
              "
            >
              <title>
                {{ text(r.start) }}: {{ r.state.toLowerCase() }}, {{ r.length }} sectors
              </title>
            </rect>
          </template>
          <rect
            v-for="t in times"
            :key="t.y"
            :x="LEFT"
            :y="t.y"
            :width="t.far"
            :height="t.h"
            :fill="t.slow ? 'var(--lampfill)' : 'var(--river)'"
            :opacity="t.slow ? 0.9 : 0.35"
          >
            <title>{{ t.slow ? 'slow' : 'usual' }} read time</title>
          </rect>
          <rect
            v-if="water !== undefined"
            :x="LEFT"
            :y="water"
            :width="WIDE"
            :height="bottom - water"
            fill="url(#water)"
          />
          <g v-for="(s, i) in strata" :key="i">
            <rect
              :x="LEFT"
              :y="y(s.start)"
              :width="WIDE"
              :height="Math.max(2, y(s.end) - y(s.start))"
              :fill="ranges.length ? 'none' : `url(#${FILLS[i % 4]})`"
              stroke="var(--ink)"
              :stroke-dasharray="ranges.length ? '3 3' : undefined"
            />
            <g v-if="y(s.end) - y(s.start) > 46">
              <rect
                :x="LEFT + 8"
                :y="(y(s.start) + y(s.end)) / 2 - 21"
                :width="WIDE - 16"
                height="42"
                fill="var(--sheet)"
                opacity="0.94"
              />
              <text class="figure" font-size="15" font-weight="700" fill="var(--ink)">
                <tspan :x="LEFT + 16" :y="(y(s.start) + y(s.end)) / 2 - 3">
                  {{ clipped(`${s.letter} ${s.label}`) }}
                </tspan>
              </text>
              <text
                class="figure"
                font-size="14"
                fill="var(--slate)"
                :x="LEFT + 16"
                :y="(y(s.start) + y(s.end)) / 2 + 15"
              >
                {{ text(s.end - s.start) }}
              </text>
            </g>
          </g>
          <text
            v-if="water !== undefined && bottom - water > 44"
            class="figure"
            font-size="14"
            fill="#efe7d8"
          >
            <tspan :x="LEFT + 14" :y="(water + bottom) / 2 - 4">out of reach</tspan>
            <tspan :x="LEFT + 14" :y="(water + bottom) / 2 + 15">
              {{ text(total - (reach ?? 0)) }}
            </tspan>
          </text>
          <text
            v-if="water !== undefined && bottom - water > 20 && bottom - water <= 44"
            class="figure"
            font-size="14"
            fill="#efe7d8"
            :x="LEFT + 8"
            :y="(water + bottom) / 2 + 5"
          >
            {{ text(total - (reach ?? 0)) }}
          </text>
          <template v-if="both">
            <path
              v-for="(r, i) in ribbonsShown"
              :key="`ribbon${i}`"
              :d="r.path"
              fill="var(--lampwash)"
              stroke="var(--lampfill)"
              stroke-dasharray="3 3"
            />
            <rect
              :x="SCALE"
              :y="TOP"
              :width="OLD_WIDE"
              :height="y(both.total) - TOP"
              fill="var(--paper)"
              stroke="var(--slate)"
            />
            <g v-for="(s, i) in both.strata" :key="`old${i}`">
              <rect
                :x="SCALE"
                :y="y(s.start)"
                :width="OLD_WIDE"
                :height="Math.max(2, y(s.end) - y(s.start))"
                fill="url(#diagonal)"
                stroke="var(--slate)"
              />
              <template v-if="y(s.end) - y(s.start) > 44">
                <rect
                  :x="SCALE + 5"
                  :y="(y(s.start) + y(s.end)) / 2 - 20"
                  :width="OLD_WIDE - 10"
                  height="40"
                  fill="var(--sheet)"
                  opacity="0.94"
                />
                <text class="figure" font-size="14" fill="var(--ink)">
                  <tspan :x="SCALE + 11" :y="(y(s.start) + y(s.end)) / 2 - 3" font-weight="700">
                    {{ s.letter || '–' }} old
                  </tspan>
                  <tspan :x="SCALE + 11" :y="(y(s.start) + y(s.end)) / 2 + 14" fill="var(--slate)">
                    {{ text(s.end - s.start) }}
                  </tspan>
                </text>
              </template>
            </g>
            <text
              v-if="y(both.total) < TOP + high - 6"
              :x="SCALE"
              :y="y(both.total) + 16"
              font-size="14"
              fill="var(--slate)"
            >
              old drive ends
            </text>
          </template>
          <path
            v-for="f in factsShown"
            :key="`tick${f.key}`"
            :d="`M${LEFT + WIDE} ${f.wanted + 2}h8L${LEFT + WIDE + 20} ${f.top + 9}h8`"
            fill="none"
            stroke="var(--slate)"
          />
          <g
            v-for="(s, i) in movable ? strata : []"
            :key="`edge-${i}`"
            tabindex="0"
            role="slider"
            class="cursor-row-resize"
            :aria-label="`End of ${s.letter} ${s.label}`"
            :aria-valuenow="s.end"
            :aria-valuetext="text(s.end)"
            aria-valuemin="0"
            :aria-valuemax="reach ?? total"
            @pointerdown="grab(i, $event)"
            @pointermove="drag"
            @pointerup="dragging = -1"
            @keydown.up.prevent="step(i, -1)"
            @keydown.down.prevent="step(i, 1)"
            @keydown.page-up.prevent="step(i, -32)"
            @keydown.page-down.prevent="step(i, 32)"
          >
            <rect
              :x="LEFT - 6"
              :y="y(s.end) - 9"
              :width="WIDE + 12"
              height="18"
              fill="transparent"
            />
            <path
              :d="`M${LEFT - 6} ${y(s.end)}h${WIDE + 12}`"
              stroke="var(--ink)"
              stroke-width="3"
            />
            <path :d="`M${LEFT - 12} ${y(s.end)}l6-5v10z`" fill="var(--ink)" />
          </g>
          <g v-for="p in pegsShown" :key="p.peg.rule + p.peg.sectors">
            <path
              :d="`M${LEFT + WIDE} ${p.at}h10L${LEFT + WIDE + 34} ${p.label}h12`"
              fill="none"
              :stroke="p.binds ? 'var(--brick)' : 'var(--slate)'"
              :stroke-width="p.binds ? 2.5 : 1"
            />
            <circle
              :cx="LEFT + WIDE"
              :cy="p.at"
              :r="p.binds ? 5.5 : 3.5"
              :fill="p.binds ? 'var(--brick)' : 'var(--slate)'"
            />
          </g>
          <path
            v-for="m in marksShown"
            :key="`mark${m.at}`"
            :d="`M${LEFT + WIDE + 6} ${m.y}h8L${LEFT + WIDE + 34} ${m.label}h12`"
            fill="none"
            stroke="var(--brick)"
          />
        </svg>
        <div
          v-for="m in marksShown"
          :key="`name${m.at}`"
          class="absolute text-[15px] leading-tight"
          :style="{ left: `${LEFT + WIDE + 50}px`, top: `${m.label - 10}px`, right: 0 }"
        >
          <span class="figure block truncate">{{ m.text }}</span>
          <span class="block text-sm text-slate">{{ m.note }}</span>
        </div>
        <div
          v-for="(r, i) in ribbonsShown"
          :key="`said${i}`"
          class="absolute text-[14px] leading-[19px]"
          :style="{
            left: `${SCALE + OLD_WIDE + 12}px`,
            top: `${r.top}px`,
            width: `${RIBBON - 20}px`,
          }"
        >
          <span v-for="l in r.lines" :key="l" class="block">{{ l }}</span>
        </div>
        <div
          v-for="f in factsShown"
          :key="f.key"
          class="absolute overflow-hidden text-[14px] leading-[19px]"
          :style="{ left: `${LEFT + WIDE + 32}px`, top: `${f.top}px`, right: 0 }"
        >
          <span
            v-for="(l, i) in f.facts"
            :key="i"
            class="block truncate"
            :class="i === 0 ? 'text-[15px] font-bold' : 'figure text-slate'"
            >{{ l }}</span
          >
        </div>
        <div
          v-for="p in pegsShown"
          :key="`label-${p.peg.rule}${p.peg.sectors}`"
          class="absolute text-[15px] leading-tight"
          :style="{ left: `${LEFT + WIDE + 50}px`, top: `${p.label - 10}px`, right: 0 }"
        >
          <span class="block truncate" :class="p.binds ? 'font-bold text-brick' : ''">
            {{ p.peg.name }}<template v-if="p.binds"> — binds</template
            ><span v-else-if="p.peg.scope === 'VOLUME'" class="text-slate"> (each volume)</span
            ><span v-else-if="p.beyond" class="text-slate"> ↓</span>
          </span>
          <Why :sum="p.peg.because" :text="`${p.peg.name}, ${text(p.peg.sectors)}`"
            ><span class="figure text-sm text-slate">{{ text(p.peg.sectors) }}</span></Why
          >
        </div>
      </div>
    </div>
    <p
      v-if="ranges.length && !asTable"
      class="flex flex-wrap gap-x-5 border-t border-rule pt-2 text-[14px] text-slate"
    >
      <span v-for="l in LEGEND" :key="l.words" class="inline-flex items-center gap-2">
        <svg width="18" height="12" aria-hidden="true">
          <rect width="18" height="12" :fill="l.fill" stroke="var(--slate)" /></svg
        >{{ l.words }}
      </span>
    </p>
    <p v-if="far.length && !asTable" class="border-t border-rule pt-2 text-[14px] text-slate">
      further down:
      <span v-for="p in far" :key="p.rule + p.sectors" class="mr-4 inline-block">
        {{ p.name }}{{ p.scope === 'VOLUME' ? ', a volume' : '' }}
        <Why :sum="p.because" :text="`${p.name}, ${text(p.sectors)}`"
          ><span class="figure">{{ text(p.sectors) }}</span></Why
        >
      </span>
    </p>
    <!-- A table takes no width from a class; out of sight it needs a box that cuts it off. -->
    <div :class="asTable ? 'overflow-x-auto' : 'sr-only'">
      <table class="mt-3 w-full text-[15px]">
        <caption class="sr-only">
          {{
            title
          }}
          as a table
        </caption>
        <thead class="text-left text-sm text-slate">
          <tr>
            <th scope="col">What</th>
            <th scope="col">From</th>
            <th scope="col">To</th>
          </tr>
        </thead>
        <tbody class="figure">
          <tr v-for="(s, i) in strata" :key="i">
            <td>{{ [`${s.letter} ${s.label}`, ...(s.facts ?? []).slice(1)].join('; ') }}</td>
            <td>{{ text(s.start) }}</td>
            <td>{{ text(s.end) }}</td>
          </tr>
          <tr v-for="r in bands" :key="`r${r.start}`">
            <td>{{ r.state.toLowerCase() }}</td>
            <td>{{ text(r.start) }}</td>
            <td>{{ text(r.start + r.length) }}</td>
          </tr>
          <tr v-if="reach !== undefined && reach < total">
            <td>out of reach</td>
            <td>{{ text(reach) }}</td>
            <td>{{ text(total) }}</td>
          </tr>
          <tr v-for="(s, i) in old?.strata ?? []" :key="`o${i}`">
            <td>
              old {{ s.letter }} {{ s.label }}:
              {{
                old?.ribbons
                  .filter((r) => r.from === i)
                  .flatMap((r) => r.lines)
                  .join(', ') || 'goes nowhere'
              }}
            </td>
            <td>{{ text(s.start) }}</td>
            <td>{{ text(s.end) }}</td>
          </tr>
          <tr v-for="p in pegs" :key="`t${p.rule}${p.sectors}`">
            <td>peg {{ p.rule }} {{ p.name }}{{ binds(p) ? ', binds' : '' }}</td>
            <td />
            <td>{{ text(p.sectors) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
