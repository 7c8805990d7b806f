<script setup lang="ts">
import type { Link } from '../api/client'
import Why from '../because/Why.vue'

/** The boot chain, link by link: what was read, and whether it holds. */
defineProps<{ links: Link[] }>()
const MARKS: Record<string, { mark: string; word: string; tone: string; rung: string }> = {
  HOLDS: { mark: '✓', word: 'holds', tone: 'text-moss', rung: 'border-moss' },
  BREAKS: { mark: '✕', word: 'breaks', tone: 'text-brick', rung: 'border-brick' },
  UNSEEN: { mark: '·', word: 'not reached', tone: 'text-slate', rung: 'border-rule' },
}
</script>

<template>
  <ol class="space-y-2">
    <li v-for="l in links" :key="l.rule" class="flex break-inside-avoid gap-2 text-[15px]">
      <span class="w-4 shrink-0 font-bold" :class="MARKS[l.verdict].tone" aria-hidden="true">{{
        MARKS[l.verdict].mark
      }}</span>
      <div class="min-w-0 border-l-2 pl-3" :class="MARKS[l.verdict].rung">
        <Why :sum="l.because" :text="l.name.charAt(0).toUpperCase() + l.name.slice(1)" />
        <span class="ml-1.5" :class="MARKS[l.verdict].tone">{{ MARKS[l.verdict].word }}</span>
        <span class="figure block text-sm text-slate">{{ l.evidence }}</span>
        <span v-if="l.mend" class="block text-sm">→ {{ l.mend }}</span>
      </div>
    </li>
  </ol>
</template>
