<script setup lang="ts">
import type { Schemas } from '../api/client'
import Why from '../because/Why.vue'
import { TOLD } from './chains'

/** What a chain, or one part of it, says: each with its mark and its reason. */
defineProps<{ told: Schemas['Told'][] }>()
</script>

<template>
  <ul>
    <slot />
    <li v-for="t in told" :key="t.text" class="flex gap-1.5" :class="TOLD[t.verdict].tone">
      <span>{{ TOLD[t.verdict].mark }}</span>
      <Why :sum="t.because" :text="t.text" />
    </li>
  </ul>
</template>
