<script setup lang="ts">
import type { Column, Shown } from './column'
import { binds } from './column'

/** The same as a table, for whoever does not see the drawing. */
defineProps<{ c: Column; shown: Shown }>()
</script>

<template>
  <table class="mt-3 w-full text-[15px]">
    <caption class="sr-only">
      {{
        shown.title
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
      <tr v-for="(s, i) in shown.strata" :key="i">
        <td>{{ [`${s.letter} ${s.label}`, ...(s.facts ?? []).slice(1)].join('; ') }}</td>
        <td>{{ c.text(s.start) }}</td>
        <td>{{ c.text(s.end) }}</td>
      </tr>
      <tr v-for="r in (shown.ranges ?? []).filter((x) => x.state !== 'READ')" :key="`r${r.start}`">
        <td>{{ r.state.toLowerCase() }}</td>
        <td>{{ c.text(r.start) }}</td>
        <td>{{ c.text(r.start + r.length) }}</td>
      </tr>
      <tr v-if="shown.reach !== undefined && shown.reach < shown.total">
        <td>out of reach</td>
        <td>{{ c.text(shown.reach) }}</td>
        <td>{{ c.text(shown.total) }}</td>
      </tr>
      <tr v-for="(s, i) in shown.old?.strata ?? []" :key="`o${i}`">
        <td>
          old {{ s.letter }} {{ s.label }}:
          {{
            shown.old?.ribbons
              .filter((r) => r.from === i)
              .flatMap((r) => r.lines)
              .join(', ') || 'goes nowhere'
          }}
        </td>
        <td>{{ c.text(s.start) }}</td>
        <td>{{ c.text(s.end) }}</td>
      </tr>
      <tr v-for="p in shown.pegs ?? []" :key="`t${p.rule}${p.sectors}`">
        <td>peg {{ p.rule }} {{ p.name }}{{ binds(shown, p) ? ', binds' : '' }}</td>
        <td />
        <td>{{ c.text(p.sectors) }}</td>
      </tr>
    </tbody>
  </table>
</template>
