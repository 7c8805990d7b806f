<script setup lang="ts">
import type { Column } from './column'

/** Dark water: what the machine does not reach. */
defineProps<{ c: Column; reach: number; text: boolean }>()
</script>

<template>
  <g v-if="c.water !== undefined">
    <rect
      v-if="!text"
      :x="c.left"
      :y="c.water"
      :width="c.wide"
      :height="c.bottom - c.water"
      fill="url(#water)"
    />
    <text v-if="text && c.bottom - c.water > 44" class="figure" font-size="14" fill="#efe7d8">
      <tspan :x="c.left + 14" :y="(c.water + c.bottom) / 2 - 4">out of reach</tspan>
      <tspan :x="c.left + 14" :y="(c.water + c.bottom) / 2 + 15">
        {{ c.text(c.total - reach) }}
      </tspan>
    </text>
    <text
      v-if="text && c.bottom - c.water > 20 && c.bottom - c.water <= 44"
      class="figure"
      font-size="14"
      fill="#efe7d8"
      :x="c.left + 8"
      :y="(c.water + c.bottom) / 2 + 5"
    >
      {{ c.text(c.total - reach) }}
    </text>
  </g>
</template>
