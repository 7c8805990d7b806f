<script setup lang="ts">
import type { Sum } from '../api/client'
import { useBecause } from './because'

/** A computed figure or verdict: a button that opens its sum. */
const props = defineProps<{ sum: Sum; text: string }>()
const because = useBecause()
</script>

<template>
  <button
    type="button"
    data-why
    class="cursor-help border-b border-dotted border-river text-left hover:text-river"
    :aria-label="`${text}: because`"
    @click="because.open(props.sum, text)"
  >
    <slot>{{ text }}</slot>
  </button>
</template>
