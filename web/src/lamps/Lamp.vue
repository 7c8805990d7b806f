<script setup lang="ts">
import { LAMPS } from './lamps'

/** One lantern: its body is filled when lit, and its mark tells the state without colour. */
defineProps<{ state: string }>()
</script>

<template>
  <svg viewBox="0 0 20 26" class="h-[26px] w-5" :class="LAMPS[state].tone" aria-hidden="true">
    <path v-if="state === 'DASH'" d="M5 15h10" stroke="currentColor" stroke-width="2" />
    <template v-else>
      <path d="M6.5 7a3.5 3.5 0 0 1 7 0" fill="none" stroke="currentColor" stroke-width="1.5" />
      <path
        d="M6 8.5h8l2.6 13.5H3.4z"
        :fill="state === 'DARK' ? 'none' : state === 'LIT' ? 'var(--lampfill)' : 'currentColor'"
        stroke="currentColor"
        stroke-width="1.5"
        stroke-linejoin="round"
      />
      <path d="M3 24h14" stroke="currentColor" stroke-width="1.8" />
      <circle v-if="state === 'LIT'" cx="10" cy="16" r="2.4" fill="var(--sheet)" />
      <path
        v-if="state === 'MOSS'"
        d="m6.8 15.6 2.4 2.6 4.2-5"
        fill="none"
        stroke="var(--sheet)"
        stroke-width="1.9"
      />
      <path
        v-if="state === 'BRICK'"
        d="m7.4 13 5.2 5.4m0-5.4-5.2 5.4"
        stroke="var(--sheet)"
        stroke-width="1.9"
      />
    </template>
  </svg>
</template>
