<script setup lang="ts">
import { computed } from 'vue'
import Patterns from '../sounding/Patterns.vue'
import { count } from '../shed/units'
import { hex, type Rom } from './useRoms'

/** The chip as a column: addresses down the side, what lies where, and a peg for each fact. */
const props = defineProps<{ rom: Rom }>()
const TOP = 14
const HIGH = 350
const LEFT = 70
const WIDE = 120
const GAP = 38

const facts = computed(() => props.rom.facts)
const y = (at: number) => TOP + (HIGH * at) / Math.max(1, facts.value.bytes)
const FILL = { USED: 'url(#diagonal)', FF: 'url(#water)', ZERO: 'url(#dots)' } as const
const WORD = { USED: 'in use', FF: 'blank, FF', ZERO: 'filled with 00' } as const

interface Peg {
  at: number
  text: string
  rule: string
  tone: string
}
const pegs = computed(() => {
  const f = facts.value
  const out: Peg[] = []
  const o = f.option
  if (o) {
    out.push({
      at: 0,
      text: `55 AA, ${count(o.length)} B, ${o.entry}`,
      rule: 'O-1',
      tone: 'text-moss',
    })
  }
  for (const t of f.texts.filter((x) => x.telling).slice(0, 3)) {
    out.push({ at: t.at, text: `“${t.text.slice(0, 34)}”`, rule: 'text', tone: 'text-slate' })
  }
  if (o && o.length > 0 && o.length <= f.bytes) {
    const wrong = o.sum !== 0
    out.push({
      at: o.length - 1,
      text: wrong ? `last byte ${hex(o.last, 2)} → ${hex(o.right, 2)}: sum 00` : 'sum 00: right',
      rule: 'O-1',
      tone: wrong ? 'text-brick' : 'text-moss',
    })
    if (o.length < f.bytes) {
      out.push({ at: o.length, text: 'length ends here', rule: 'O-1', tone: 'text-slate' })
    }
  }
  out.push({
    at: f.bytes,
    text: `image ends, ${count(f.bytes)} B`,
    rule: 'O-2',
    tone: 'text-slate',
  })
  return out.sort((a, b) => a.at - b.at)
})
/** Where each label stands: at its address, or below the one above. */
const labels = computed(() => {
  const ys = pegs.value.map((p) => y(p.at))
  for (let i = 1; i < ys.length; i++) ys[i] = Math.max(ys[i], ys[i - 1] + GAP)
  // What ran out at the foot goes up again.
  let most = TOP + HIGH + 8
  for (let i = ys.length - 1; i >= 0; i--) {
    ys[i] = Math.min(ys[i], most)
    most = ys[i] - GAP
  }
  return ys
})
const named = computed(() => facts.value.stretches.filter((s) => y(s.length) - TOP > 40))
</script>

<template>
  <svg
    :viewBox="`0 0 460 ${HIGH + 40}`"
    class="w-full"
    role="img"
    :aria-label="`${rom.name}: ${pegs.map((p) => `${hex(p.at)} ${p.text}`).join('; ')}`"
  >
    <Patterns />
    <rect
      v-for="s in facts.stretches"
      :key="s.start"
      :x="LEFT"
      :y="y(s.start)"
      :width="WIDE"
      :height="Math.max(1, y(s.start + s.length) - y(s.start))"
      :fill="FILL[s.kind]"
    />
    <rect :x="LEFT" :y="TOP" :width="WIDE" :height="HIGH" fill="none" stroke="var(--slate)" />
    <g v-for="s in named" :key="`n${s.start}`">
      <rect
        :x="LEFT + 8"
        :y="y(s.start + s.length / 2) - 20"
        :width="WIDE - 16"
        height="40"
        fill="var(--sheet)"
      />
      <text :x="LEFT + 14" :y="y(s.start + s.length / 2) - 3" class="fill-ink text-[13px]">
        {{ WORD[s.kind] }}
      </text>
      <text :x="LEFT + 14" :y="y(s.start + s.length / 2) + 14" class="figure fill-ink text-[13px]">
        {{ count(s.length) }} B
      </text>
    </g>
    <text
      v-for="s in facts.stretches.filter((x) => y(x.length) - TOP > 16)"
      :key="`a${s.start}`"
      :x="LEFT - 10"
      :y="y(s.start) + 10"
      text-anchor="end"
      class="figure fill-slate text-[13px]"
    >
      {{ hex(s.start) }}
    </text>
    <text
      :x="LEFT - 10"
      :y="TOP + HIGH + 4"
      text-anchor="end"
      class="figure fill-slate text-[13px]"
    >
      {{ hex(facts.bytes - 1) }}
    </text>
    <g v-for="(p, i) in pegs" :key="p.text" :class="p.tone">
      <circle :cx="LEFT + WIDE" :cy="y(p.at)" r="4" fill="currentColor" />
      <path
        :d="`M${LEFT + WIDE} ${y(p.at)}h12L${LEFT + WIDE + 22} ${labels[i]}h8`"
        fill="none"
        stroke="currentColor"
      />
      <text
        :x="LEFT + WIDE + 36"
        :y="labels[i] + 4"
        fill="currentColor"
        class="text-[13.5px] font-bold"
      >
        {{ p.text }}
      </text>
      <text :x="LEFT + WIDE + 36" :y="labels[i] + 20" class="figure fill-slate text-[12px]">
        {{ p.rule }}
      </text>
    </g>
  </svg>
  <table class="sr-only">
    <caption>
      The chip from its first byte to its last
    </caption>
    <tbody>
      <tr v-for="s in facts.stretches" :key="s.start">
        <th scope="row">{{ hex(s.start) }}</th>
        <td>{{ WORD[s.kind] }}</td>
        <td>{{ count(s.length) }} B</td>
      </tr>
      <tr v-for="p in pegs" :key="p.text">
        <th scope="row">{{ hex(p.at) }}</th>
        <td>{{ p.text }}</td>
        <td>{{ p.rule }}</td>
      </tr>
    </tbody>
  </table>
</template>
