<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { useUndo } from './undo'

const undo = useUndo()
const queries = useQueryClient()
async function back(): Promise<void> {
  await undo.back()
  await queries.invalidateQueries()
}
</script>

<template>
  <div
    v-if="undo.text"
    data-frame
    class="flex shrink-0 items-center gap-4 border-t border-rule bg-lampwash px-5 py-2"
    role="status"
  >
    <span>{{ undo.text }}</span>
    <button type="button" class="plain" @click="back">Undo</button>
    <span class="grow" />
    <button type="button" class="key" aria-label="Put this note away" @click="undo.drop()">
      ✕
    </button>
  </div>
</template>
