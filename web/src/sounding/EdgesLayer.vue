<script setup lang="ts">
import type { Column, Stratum } from './column'
import { sectorAt } from './depth'

/** The lower edges of volumes, moved by hand or by keys; the core says where they may be. */
const props = defineProps<{ c: Column; strata: Stratum[]; most: number; cylinder: number }>()
const emit = defineEmits<{ move: [index: number, end: number] }>()
let dragging = -1
function grab(index: number, e: PointerEvent): void {
  dragging = index
  ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
}
function drag(e: PointerEvent): void {
  if (dragging < 0) return
  const svg = (e.currentTarget as Element).closest('svg')
  if (!svg) return
  const { c } = props
  const at = (e.clientY - svg.getBoundingClientRect().top - c.top) / c.high
  emit('move', dragging, sectorAt(at, c.span, c.log))
}
function step(index: number, by: number): void {
  emit('move', index, props.strata[index].end + by * props.cylinder)
}
</script>

<template>
  <g>
    <g
      v-for="(s, i) in strata"
      :key="`edge-${i}`"
      tabindex="0"
      role="slider"
      class="cursor-row-resize"
      :aria-label="`End of ${s.letter} ${s.label}`"
      :aria-valuenow="s.end"
      :aria-valuetext="c.text(s.end)"
      aria-valuemin="0"
      :aria-valuemax="most"
      @pointerdown="grab(i, $event)"
      @pointermove="drag"
      @pointerup="dragging = -1"
      @keydown.up.prevent="step(i, -1)"
      @keydown.down.prevent="step(i, 1)"
      @keydown.page-up.prevent="step(i, -32)"
      @keydown.page-down.prevent="step(i, 32)"
    >
      <rect
        :x="c.left - 6"
        :y="c.y(s.end) - 9"
        :width="c.wide + 12"
        height="18"
        fill="transparent"
      />
      <path
        :d="`M${c.left - 6} ${c.y(s.end)}h${c.wide + 12}`"
        stroke="var(--ink)"
        stroke-width="3"
      />
      <path :d="`M${c.left - 12} ${c.y(s.end)}l6-5v10z`" fill="var(--ink)" />
    </g>
  </g>
</template>
