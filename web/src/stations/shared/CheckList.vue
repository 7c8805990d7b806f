<script setup lang="ts">
import type { Schemas } from '../../api/client'

/** A list of steps with a tick, a place for the reading, and a caution only where one applies. */
defineProps<{
  steps: Schemas['Step'][]
  tick: (index: number) => Schemas['Tick']
}>()
</script>

<template>
  <ol class="divide-y divide-rule">
    <li v-for="(step, i) in steps" :key="i" class="flex gap-3 py-2">
      <input
        :id="`step-${i}`"
        type="checkbox"
        class="mt-1 h-5 w-5 shrink-0 accent-moss"
        :checked="tick(i).done"
        @change="tick(i).done = !tick(i).done"
      />
      <div class="min-w-0 grow">
        <label :for="`step-${i}`">{{ step.text }}</label>
        <p v-if="step.caution" class="text-sm text-brick">▲ {{ step.caution }}</p>
      </div>
      <input
        v-if="step.reading"
        v-model="tick(i).reading"
        class="field figure h-9 w-44! shrink-0 text-sm"
        :placeholder="step.reading"
        :aria-label="step.reading"
        maxlength="200"
      />
    </li>
  </ol>
</template>
