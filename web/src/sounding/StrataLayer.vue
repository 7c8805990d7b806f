<script setup lang="ts">
import type { Column, Stratum } from './column'

/** Volumes as strata, each with its name where there is room for it. */
const props = defineProps<{ c: Column; strata: Stratum[]; outlined: boolean }>()
const FILLS = ['diagonal', 'dots', 'cross', 'level']
/** A name within its stratum; whole it stands beside it. */
const clipped = (name: string) => {
  const most = Math.floor((props.c.wide - 30) / 9)
  return name.length > most ? `${name.slice(0, most - 1)}…` : name
}
</script>

<template>
  <g>
    <g v-for="(s, i) in strata" :key="i">
      <rect
        :x="c.left"
        :y="c.y(s.start)"
        :width="c.wide"
        :height="Math.max(2, c.y(s.end) - c.y(s.start))"
        :fill="outlined ? 'none' : `url(#${FILLS[i % 4]})`"
        stroke="var(--ink)"
        :stroke-dasharray="outlined ? '3 3' : undefined"
      />
      <g v-if="c.y(s.end) - c.y(s.start) > 46">
        <rect
          :x="c.left + 8"
          :y="(c.y(s.start) + c.y(s.end)) / 2 - 21"
          :width="c.wide - 16"
          height="42"
          fill="var(--sheet)"
          opacity="0.94"
        />
        <text class="figure" font-size="15" font-weight="700" fill="var(--ink)">
          <tspan :x="c.left + 16" :y="(c.y(s.start) + c.y(s.end)) / 2 - 3">
            {{ clipped(`${s.letter} ${s.label}`) }}
          </tspan>
        </text>
        <text
          class="figure"
          font-size="14"
          fill="var(--slate)"
          :x="c.left + 16"
          :y="(c.y(s.start) + c.y(s.end)) / 2 + 15"
        >
          {{ c.text(s.end - s.start) }}
        </text>
      </g>
    </g>
  </g>
</template>
