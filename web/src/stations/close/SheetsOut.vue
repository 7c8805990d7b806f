<script setup lang="ts">
import { ref } from 'vue'
import type { Job } from '../../api/client'
import { paper } from '../../shed/paper'

/** What goes on paper (Z-2): for the card's box, for the machine, for the folder. */
defineProps<{ job: Job }>()
const size = ref(paper())
</script>

<template>
  <section class="sheet p-5">
    <h2 class="head">On paper</h2>
    <div class="mt-2 flex flex-wrap items-center gap-3">
      <a class="plain" target="_blank" :href="`/api/jobs/${job.id}/label.pdf`"
        >Label for card and machine</a
      >
      <a class="plain" target="_blank" :href="`/api/jobs/${job.id}/record.pdf?paper=${size}`"
        >Record of the job</a
      >
      <a class="plain" target="_blank" :href="`/api/jobs/${job.id}/plan.pdf?paper=${size}`">Plan</a>
      <a class="plain" target="_blank" :href="`/api/jobs/${job.id}/log.pdf?paper=${size}`"
        >Logbook</a
      >
      <label class="flex items-center gap-2 text-[15px]"
        >on
        <select v-model="size" class="field w-28!">
          <option value="A4">A4</option>
          <option value="LETTER">Letter</option>
        </select></label
      >
    </div>
    <p class="mt-1 text-sm text-slate">
      The label is 89 × 36 mm; its code has the job and the whole digest of the image.
    </p>
  </section>
</template>
