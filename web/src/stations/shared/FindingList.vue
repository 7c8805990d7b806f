<script setup lang="ts">
import type { Finding } from '../../api/client'
import Why from '../../because/Why.vue'

/** Findings, the weightiest first: what, where, what to do. */
defineProps<{ findings: Finding[] }>()
const MARKS: Record<string, { mark: string; tone: string }> = {
  STOPS: { mark: '✕ stops', tone: 'text-brick' },
  WRONG: { mark: '▲ wrong', tone: 'text-lamp' },
  NOTE: { mark: '· note', tone: 'text-slate' },
}
</script>

<template>
  <p v-if="!findings.length" class="text-moss">✓ Nothing is wrong with it.</p>
  <ul v-else class="space-y-2">
    <li v-for="(f, i) in findings" :key="i" class="text-[15px]">
      <span class="font-bold" :class="MARKS[f.weight].tone">{{ MARKS[f.weight].mark }}</span>
      <span class="text-slate"> · {{ f.where }} · </span>
      <Why :sum="f.because" :text="f.what" />
      <span v-if="f.todo" class="block text-sm">→ {{ f.todo }}</span>
    </li>
  </ul>
</template>
