<script setup lang="ts">
import { computed } from 'vue'
import Patterns from '../sounding/Patterns.vue'
import type { Schemas } from '../api/client'
import { sizeIn, useUnit } from '../shed/units'

/** A volume as a column that fills: what is there, what comes aboard, what is free after. */
const props = defineProps<{ hold: Schemas['DiskView'] }>()
const unit = useUnit()
const TOP = 12
const HIGH = 330
const LEFT = 62
const WIDE = 112
const size = (bytes: number) => sizeIn(bytes, unit.unit)

const parts = computed(() => {
  const h = props.hold
  return [
    { key: 'there', says: 'there already', bytes: h.there, fill: 'url(#diagonal)', tone: 'slate' },
    { key: 'comes', says: 'comes aboard', bytes: h.comes, fill: 'url(#dots)', tone: 'moss' },
    { key: 'free', says: 'free after', bytes: h.free, fill: 'var(--sheet)', tone: 'slate' },
  ].filter((p) => p.bytes > 0)
})
/** Where each part lies and where its words stand, none upon another. */
const drawn = computed(() => {
  const scale = HIGH / Math.max(1, props.hold.size)
  let at = TOP
  let least = TOP
  return parts.value.map((p) => {
    const y = at
    const high = Math.max(2, p.bytes * scale)
    at = Math.min(TOP + HIGH, y + p.bytes * scale)
    const label = Math.max(least + 14, y + high / 2)
    least = label + 28
    return { ...p, y, high, label }
  })
})
</script>

<template>
  <div>
    <svg
      :viewBox="`0 0 320 ${HIGH + 24}`"
      class="w-full"
      role="img"
      :aria-label="`${hold.name}: ${parts.map((p) => `${p.says} ${size(p.bytes)}`).join(', ')}`"
    >
      <Patterns />
      <text :x="LEFT - 10" :y="TOP + 5" text-anchor="end" class="figure fill-slate text-[13px]">
        0
      </text>
      <text :x="LEFT - 10" :y="TOP + HIGH" text-anchor="end" class="figure fill-slate text-[13px]">
        {{ size(hold.size).split(' ')[0] }}
      </text>
      <g v-for="p in drawn" :key="p.key">
        <rect :x="LEFT" :y="p.y" :width="WIDE" :height="p.high" :fill="p.fill" />
        <line
          v-if="p.key !== 'free'"
          :x1="LEFT - 6"
          :x2="LEFT + WIDE + 6"
          :y1="p.y + p.high"
          :y2="p.y + p.high"
          :stroke="p.key === 'comes' ? 'var(--moss)' : 'var(--ink)'"
          stroke-width="2.5"
        />
        <path
          :d="`M${LEFT + WIDE + 8} ${p.y + p.high / 2}L${LEFT + WIDE + 20} ${p.label}`"
          stroke="var(--rule)"
          fill="none"
        />
        <text
          :x="LEFT + WIDE + 24"
          :y="p.label - 2"
          class="text-[14px]"
          :class="p.tone === 'moss' ? 'fill-moss' : 'fill-slate'"
        >
          {{ p.says }}
        </text>
        <text
          :x="LEFT + WIDE + 24"
          :y="p.label + 15"
          class="figure text-[14px] font-bold"
          :class="p.tone === 'moss' ? 'fill-moss' : 'fill-ink'"
        >
          {{ size(p.bytes) }}
        </text>
      </g>
      <rect :x="LEFT" :y="TOP" :width="WIDE" :height="HIGH" fill="none" stroke="var(--slate)" />
    </svg>
    <table class="sr-only">
      <caption>
        {{
          hold.name
        }}
      </caption>
      <tbody>
        <tr v-for="p in parts" :key="p.key">
          <th scope="row">{{ p.says }}</th>
          <td>{{ size(p.bytes) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
