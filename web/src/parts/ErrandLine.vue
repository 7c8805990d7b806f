<script setup lang="ts">
import { computed } from 'vue'
import type { Errand } from '../api/client'
import ProgressBar from '../shed/ProgressBar.vue'

/** How far an errand is, on a line or two, with the way to stop it. */
const props = defineProps<{ errand: Errand; title: string }>()
defineEmits<{ stop: [] }>()
const share = computed(() =>
  props.errand.total > 0 ? Math.floor((props.errand.done / props.errand.total) * 100) : 0,
)
</script>

<template>
  <div class="mt-2">
    <p class="flex flex-wrap items-baseline gap-x-3" role="status">
      <span class="figure text-2xl font-bold">{{ share }} %</span>
      <span class="text-[15px] text-slate">
        ↻ {{ [errand.phase, errand.doneText, errand.leftText].filter(Boolean).join(' · ') }}
      </span>
    </p>
    <div class="mt-1 flex items-center gap-3">
      <ProgressBar class="grow" :share="share" :title="title" />
      <button type="button" class="plain" @click="$emit('stop')">Stop</button>
    </div>
    <p class="mt-1 text-sm text-slate">You can leave this screen; it goes on by itself.</p>
  </div>
</template>
