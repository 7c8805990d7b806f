<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import Why from '../because/Why.vue'
import { useKeys } from '../shed/keys'
import { binds, GAP, LINE, type Shown, useColumn } from './column'
import { marks as scaleMarks, spread, stack } from './depth'
import EdgesLayer from './EdgesLayer.vue'
import OldLayer from './OldLayer.vue'
import Patterns from './Patterns.vue'
import ReadLayer from './ReadLayer.vue'
import SoundingTable from './SoundingTable.vue'
import StrataLayer from './StrataLayer.vue'
import WaterLayer from './WaterLayer.vue'

/**
 * A medium as a column that goes down from sector 0, in layers: volumes as strata, every ceiling a
 * peg at its depth, dark water below the lowest. The same column shows a rescue, with holes where
 * nothing came back.
 */
const props = withDefaults(defineProps<Shown>(), {
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
})
const emit = defineEmits<{ move: [index: number, end: number] }>()

/** What hatching and bars mean where a rescue is drawn. */
const LEGEND = [
  { fill: 'url(#read)', words: 'read' },
  { fill: 'var(--lampfill)', words: 'read on a retry, or slowly' },
  { fill: 'var(--brick)', words: 'failed' },
  { fill: 'url(#water)', words: 'not read' },
  { fill: 'var(--river)', words: 'the longer the bar, the slower' },
]
const log = ref(!props.straight)
const asTable = ref(false)
const box = ref<HTMLElement | null>(null)
const { height: boxHeight } = useElementSize(box)
const c = useColumn(props, log, boxHeight)

useKeys([
  { key: 'G', says: 'depth: logarithmic or straight', does: () => (log.value = !log.value) },
  { key: 'T', says: 'the sounding as a table', does: () => (asTable.value = !asTable.value) },
])

const scale = computed(() => {
  const all = scaleMarks(c.value.span, log.value).map((s) => ({ s, y: c.value.y(s) }))
  return all.filter((m, i) => i === 0 || m.y - all[i - 1].y > 14)
})
/** Ceilings that the scale does not reach are a list under the drawing. */
const far = computed(() =>
  log.value || !props.pegs.length
    ? []
    : [...props.pegs]
        .filter((p) => p.sectors > c.value.span && !binds(props, p))
        .sort((a, b) => a.sectors - b.sectors),
)

/** What stands to the right of the column, none on another: facts of the strata, and the pegs. */
const beside = computed(() => {
  const { y, top, bottom, high } = c.value
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
      binds: binds(props, peg),
      beyond: peg.sectors > props.total,
    }))
  const all = [...facts, ...pegs].sort((a, b) => a.wanted - b.wanted)
  const places = stack(all, top - 4, Math.max(bottom, top + high) + 8)
  return all.map((x, i) => ({ ...x, top: places[i] }))
})
const pegsShown = computed(() =>
  beside.value.flatMap((x) => ('peg' in x ? [{ ...x, label: x.top + 10 }] : [])),
)
const factsShown = computed(() => beside.value.flatMap((x) => ('facts' in x ? [x] : [])))
const ribbonsShown = computed(() => {
  const { both, y, top, high, left, scale: begins, oldWide } = c.value
  if (!both) return []
  return both.ribbons.map((r) => {
    const from = both.strata[r.from]
    const to = props.strata[r.to]
    const x1 = begins + oldWide
    const x2 = left
    const mid = (x1 + x2) / 2
    const [a, b, d, e] = [y(from.start), y(from.end), y(to.start), y(to.end)]
    return {
      path: `M${x1} ${a}C${mid} ${a} ${mid} ${d} ${x2} ${d}V${e}C${mid} ${e} ${mid} ${b} ${x1} ${b}Z`,
      lines: r.lines,
      top: Math.min((a + Math.min(b, e)) / 2, top + high - r.lines.length * LINE) - 10,
    }
  })
})
const marksShown = computed(() => {
  const { y, top, high } = c.value
  const sorted = [...props.marks].sort((a, b) => a.at - b.at)
  const places = spread(
    sorted.map((m) => y(m.at)),
    GAP,
    top + 8,
    top + high - 24,
  )
  return sorted.map((m, i) => ({ ...m, y: y(m.at), label: places[i] }))
})
/** One press of an arrow moves an edge by a cylinder. */
const cylinder = computed(() =>
  props.geometry ? props.geometry.heads * props.geometry.sectors : 2048,
)
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
          <Patterns />
          <g class="figure" font-size="14" fill="var(--slate)">
            <g v-for="m in scale" :key="m.s">
              <text :x="c.scale - 14" :y="m.y + 5" text-anchor="end">{{ c.text(m.s) }}</text>
              <path :d="`M${c.scale - 8} ${m.y}h8`" stroke="var(--slate)" />
            </g>
          </g>
          <rect
            :x="c.left"
            :y="c.top"
            :width="c.wide"
            :height="c.bottom - c.top"
            :fill="ranges.length ? 'url(#read)' : 'var(--paper)'"
            stroke="var(--slate)"
          />
          <ReadLayer
            v-if="ranges.length || slowest.length"
            :c="c"
            :ranges="ranges"
            :slowest="slowest"
          />
          <WaterLayer :c="c" :reach="reach ?? 0" :text="false" />
          <StrataLayer :c="c" :strata="strata" :outlined="ranges.length > 0" />
          <WaterLayer :c="c" :reach="reach ?? 0" :text="true" />
          <OldLayer :c="c" :ribbons="ribbonsShown" />
          <path
            v-for="f in factsShown"
            :key="`tick${f.key}`"
            :d="`M${c.left + c.wide} ${f.wanted + 2}h8L${c.left + c.wide + 20} ${f.top + 9}h8`"
            fill="none"
            stroke="var(--slate)"
          />
          <EdgesLayer
            v-if="movable"
            :c="c"
            :strata="strata"
            :most="reach ?? total"
            :cylinder="cylinder"
            @move="(index, end) => emit('move', index, end)"
          />
          <g v-for="p in pegsShown" :key="p.peg.rule + p.peg.sectors">
            <path
              :d="`M${c.left + c.wide} ${p.at}h10L${c.left + c.wide + 34} ${p.label}h12`"
              fill="none"
              :stroke="p.binds ? 'var(--brick)' : 'var(--slate)'"
              :stroke-width="p.binds ? 2.5 : 1"
            />
            <circle
              :cx="c.left + c.wide"
              :cy="p.at"
              :r="p.binds ? 5.5 : 3.5"
              :fill="p.binds ? 'var(--brick)' : 'var(--slate)'"
            />
          </g>
          <path
            v-for="m in marksShown"
            :key="`mark${m.at}`"
            :d="`M${c.left + c.wide + 6} ${m.y}h8L${c.left + c.wide + 34} ${m.label}h12`"
            fill="none"
            stroke="var(--brick)"
          />
        </svg>
        <div
          v-for="m in marksShown"
          :key="`name${m.at}`"
          class="absolute text-[15px] leading-tight"
          :style="{ left: `${c.left + c.wide + 50}px`, top: `${m.label - 10}px`, right: 0 }"
        >
          <span class="figure block truncate">{{ m.text }}</span>
          <span class="block text-sm text-slate">{{ m.note }}</span>
        </div>
        <div
          v-for="(r, i) in ribbonsShown"
          :key="`said${i}`"
          class="absolute text-[14px] leading-[19px]"
          :style="{
            left: `${c.scale + c.oldWide + 12}px`,
            top: `${r.top}px`,
            width: `${c.ribbon - 20}px`,
          }"
        >
          <span v-for="l in r.lines" :key="l" class="block">{{ l }}</span>
        </div>
        <div
          v-for="f in factsShown"
          :key="f.key"
          class="absolute overflow-hidden text-[14px] leading-[19px]"
          :style="{ left: `${c.left + c.wide + 32}px`, top: `${f.top}px`, right: 0 }"
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
          :style="{ left: `${c.left + c.wide + 50}px`, top: `${p.label - 10}px`, right: 0 }"
        >
          <span class="block truncate" :class="p.binds ? 'font-bold text-brick' : ''">
            {{ p.peg.name }}<template v-if="p.binds"> — binds</template
            ><span v-else-if="p.peg.scope === 'VOLUME'" class="text-slate"> (each volume)</span
            ><span v-else-if="p.beyond" class="text-slate"> ↓</span>
          </span>
          <Why :sum="p.peg.because" :text="`${p.peg.name}, ${c.text(p.peg.sectors)}`"
            ><span class="figure text-sm text-slate">{{ c.text(p.peg.sectors) }}</span></Why
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
        <Why :sum="p.because" :text="`${p.name}, ${c.text(p.sectors)}`"
          ><span class="figure">{{ c.text(p.sectors) }}</span></Why
        >
      </span>
    </p>
    <!-- A table takes no width from a class; out of sight it needs a box that cuts it off. -->
    <div :class="asTable ? 'overflow-x-auto' : 'sr-only'">
      <SoundingTable :c="c" :shown="props" />
    </div>
  </section>
</template>
