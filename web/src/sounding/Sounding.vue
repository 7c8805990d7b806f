<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Peg, Range } from '../api/client'
import Why from '../because/Why.vue'
import { useKeys } from '../shed/keys'
import { type Geometry, inUnit, useUnit } from '../shed/units'
import { depth, marks as scaleMarks, sectorAt, spread } from './depth'

export interface Stratum {
  letter: string
  label: string
  start: number
  end: number
  note?: string
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
  },
)
const emit = defineEmits<{ move: [index: number, end: number] }>()

const TOP = 12
const LEFT = 128
const WIDE = 150
const GAP = 40
const FILLS = ['diagonal', 'dots', 'cross', 'level']
const unit = useUnit()
const log = ref(!props.straight)
const asTable = ref(false)
const box = ref<HTMLElement | null>(null)
const { height: boxHeight } = useElementSize(box)
const high = computed(() => Math.max(260, boxHeight.value - TOP * 2))
const y = (sector: number) => TOP + depth(sector, props.total, log.value) * high.value
const text = (sectors: number) => inUnit(sectors, unit.unit, props.geometry)

useKeys([
  { key: 'G', says: 'depth: logarithmic or straight', does: () => (log.value = !log.value) },
  { key: 'T', says: 'the sounding as a table', does: () => (asTable.value = !asTable.value) },
])

const scale = computed(() => {
  const all = scaleMarks(props.total, log.value).map((s) => ({ s, y: y(s) }))
  return all.filter((m, i) => i === 0 || m.y - all[i - 1].y > 14)
})
const pegsShown = computed(() => {
  const sorted = [...props.pegs].sort((a, b) => a.sectors - b.sectors)
  const places = spread(
    sorted.map((p) => y(p.sectors) - 4),
    GAP,
    TOP + 8,
    TOP + high.value - 24,
  )
  return sorted.map((peg, i) => ({
    peg,
    at: y(peg.sectors),
    label: places[i],
    binds: peg.rule === props.binding?.rule && peg.sectors === props.binding?.sectors,
    beyond: peg.sectors > props.total,
  }))
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
    const far = Math.min(WIDE - 8, 4 + Math.log10(t / least) * 34)
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
  emit('move', dragging, sectorAt(at, props.total, log.value))
}
function step(index: number, by: number): void {
  const cylinder = props.geometry ? props.geometry.heads * props.geometry.sectors : 2048
  emit('move', index, props.strata[index].end + by * cylinder)
}
</script>

<template>
  <section class="sheet flex min-h-0 flex-col p-4" :aria-label="title">
    <div class="flex items-baseline gap-x-3">
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
    <div v-show="!asTable" ref="box" class="relative min-h-[340px] grow">
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
            <text :x="LEFT - 14" :y="m.y + 5" text-anchor="end">{{ text(m.s) }}</text>
            <path :d="`M${LEFT - 8} ${m.y}h8`" stroke="var(--slate)" />
          </g>
        </g>
        <rect
          :x="LEFT"
          :y="TOP"
          :width="WIDE"
          :height="high"
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
            <title>{{ text(r.start) }}: {{ r.state.toLowerCase() }}, {{ r.length }} sectors</title>
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
          :height="TOP + high - water"
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
                {{ s.letter }} {{ s.label }}
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
          v-if="water !== undefined && TOP + high - water > 44"
          class="figure"
          font-size="14"
          fill="#efe7d8"
        >
          <tspan :x="LEFT + 14" :y="(water + TOP + high) / 2 - 4">out of reach</tspan>
          <tspan :x="LEFT + 14" :y="(water + TOP + high) / 2 + 15">
            {{ text(total - (reach ?? 0)) }}
          </tspan>
        </text>
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
          <rect :x="LEFT - 6" :y="y(s.end) - 9" :width="WIDE + 12" height="18" fill="transparent" />
          <path :d="`M${LEFT - 6} ${y(s.end)}h${WIDE + 12}`" stroke="var(--ink)" stroke-width="3" />
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
    <table :class="asTable ? 'mt-3 w-full text-[15px]' : 'sr-only'">
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
          <td>{{ s.letter }} {{ s.label }}</td>
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
        <tr v-for="p in pegsShown" :key="`t${p.peg.rule}${p.peg.sectors}`">
          <td>peg {{ p.peg.rule }} {{ p.peg.name }}{{ p.binds ? ', binds' : '' }}</td>
          <td />
          <td>{{ text(p.peg.sectors) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
