<script setup lang="ts">
import type { Column } from './column'

/** A ribbon as it is drawn. */
export interface Ribbon {
  path: string
  lines: string[]
  top: number
}

/** The old medium beside the new one, with a ribbon from each volume to where its files go. */
defineProps<{ c: Column; ribbons: Ribbon[] }>()
</script>

<template>
  <g v-if="c.both">
    <path
      v-for="(r, i) in ribbons"
      :key="`ribbon${i}`"
      :d="r.path"
      fill="var(--lampwash)"
      stroke="var(--lampfill)"
      stroke-dasharray="3 3"
    />
    <rect
      :x="c.scale"
      :y="c.top"
      :width="c.oldWide"
      :height="c.y(c.both.total) - c.top"
      fill="var(--paper)"
      stroke="var(--slate)"
    />
    <g v-for="(s, i) in c.both.strata" :key="`old${i}`">
      <rect
        :x="c.scale"
        :y="c.y(s.start)"
        :width="c.oldWide"
        :height="Math.max(2, c.y(s.end) - c.y(s.start))"
        fill="url(#diagonal)"
        stroke="var(--slate)"
      />
      <template v-if="c.y(s.end) - c.y(s.start) > 44">
        <rect
          :x="c.scale + 5"
          :y="(c.y(s.start) + c.y(s.end)) / 2 - 20"
          :width="c.oldWide - 10"
          height="40"
          fill="var(--sheet)"
          opacity="0.94"
        />
        <text class="figure" font-size="14" fill="var(--ink)">
          <tspan :x="c.scale + 11" :y="(c.y(s.start) + c.y(s.end)) / 2 - 3" font-weight="700">
            {{ s.letter || '–' }} old
          </tspan>
          <tspan :x="c.scale + 11" :y="(c.y(s.start) + c.y(s.end)) / 2 + 14" fill="var(--slate)">
            {{ c.text(s.end - s.start) }}
          </tspan>
        </text>
      </template>
    </g>
    <text
      v-if="c.y(c.both.total) < c.top + c.high - 6"
      :x="c.scale"
      :y="c.y(c.both.total) + 16"
      font-size="14"
      fill="var(--slate)"
    >
      old drive ends
    </text>
  </g>
</template>
