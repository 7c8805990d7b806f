<script setup lang="ts">
import { computed } from 'vue'
import type { Range } from '../api/client'
import type { Column } from './column'

/** A rescue on the column: what came back, what did not, and how slowly. */
const props = defineProps<{ c: Column; ranges: Range[]; slowest: number[] }>()
const bands = computed(() => props.ranges.filter((r) => r.state !== 'READ'))
/** Read time as the distance from the line, logarithmic: twice as far is ten times slower. */
const times = computed(() => {
  const { c, slowest } = props
  const least = Math.min(...slowest.filter((t) => t > 0))
  return slowest.flatMap((t, i) => {
    if (t <= 0) return []
    const top = c.y((i * c.total) / slowest.length)
    const far = Math.min(c.wide - 8, 4 + Math.log10(t / least) * 34)
    return [
      {
        y: top,
        h: Math.max(1, c.y(((i + 1) * c.total) / slowest.length) - top),
        far,
        slow: t > 4 * least,
      },
    ]
  })
})
</script>

<template>
  <g>
    <template v-if="ranges.length">
      <rect
        v-for="r in bands"
        :key="r.start"
        :x="r.state === 'FAILED' ? c.left - 6 : c.left"
        :y="c.y(r.start)"
        :width="r.state === 'FAILED' ? c.wide + 12 : c.wide"
        :height="Math.max(r.state === 'UNREAD' ? 0.5 : 3, c.y(r.start + r.length) - c.y(r.start))"
        :fill="
          r.state === 'UNREAD'
            ? 'url(#water)'
            : r.state === 'LATE'
              ? 'var(--lampfill)'
              : 'var(--brick)'
        "
      >
        <title>{{ c.text(r.start) }}: {{ r.state.toLowerCase() }}, {{ r.length }} sectors</title>
      </rect>
    </template>
    <rect
      v-for="t in times"
      :key="t.y"
      :x="c.left"
      :y="t.y"
      :width="t.far"
      :height="t.h"
      :fill="t.slow ? 'var(--lampfill)' : 'var(--river)'"
      :opacity="t.slow ? 0.9 : 0.35"
    >
      <title>{{ t.slow ? 'slow' : 'usual' }} read time</title>
    </rect>
  </g>
</template>
