<script setup lang="ts">
import type { Link } from '../../api/client'
import Why from '../../because/Why.vue'

/** The boot chain, link by link: what was read, and whether it holds. */
defineProps<{ links: Link[] }>()
const MARKS: Record<string, { mark: string; word: string; tone: string }> = {
  HOLDS: { mark: '✓', word: 'holds', tone: 'text-moss' },
  BREAKS: { mark: '✕', word: 'breaks', tone: 'text-brick' },
  UNSEEN: { mark: '·', word: 'not reached', tone: 'text-slate' },
}
</script>

<template>
  <ol class="space-y-1.5">
    <li v-for="l in links" :key="l.rule" class="flex gap-2 text-[15px]">
      <span class="w-4 shrink-0 font-bold" :class="MARKS[l.verdict].tone" aria-hidden="true">{{
        MARKS[l.verdict].mark
      }}</span>
      <div class="min-w-0">
        <Why :sum="l.because" :text="l.name" />
        <span class="ml-1.5" :class="MARKS[l.verdict].tone">{{ MARKS[l.verdict].word }}</span>
        <span class="figure block text-sm text-slate">{{ l.evidence }}</span>
        <span v-if="l.mend" class="block text-sm">→ {{ l.mend }}</span>
      </div>
    </li>
  </ol>
</template>
