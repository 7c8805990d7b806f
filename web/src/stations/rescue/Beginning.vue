<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { api, ask, sentence, type Job } from '../../api/client'
import { staleJob } from '../../api/live'
import ImageChoice from '../../parts/ImageChoice.vue'

/** W-10: without an old drive a job starts from an image, from files, or from nothing. */
const props = defineProps<{ job: Job }>()
const queries = useQueryClient()
const imageId = ref(0)
const begin = useMutation({
  mutationFn: (startsFrom: Job['startsFrom']) =>
    ask(
      api.PUT('/api/jobs/{id}/beginning', {
        params: { path: { id: props.job.id } },
        body: { version: props.job.version, startsFrom, imageId: imageId.value },
      }),
    ),
  onSettled: () => staleJob(queries, props.job.id),
})
</script>

<template>
  <section class="sheet p-5">
    <h2 class="head">
      {{
        job.startsFrom === 'MEDIUM'
          ? 'There is no old drive to image?'
          : 'It starts from something else?'
      }}
    </h2>
    <div class="mt-2 flex flex-wrap gap-3">
      <button
        v-if="job.startsFrom !== 'FILES'"
        type="button"
        class="plain"
        @click="begin.mutate('FILES')"
      >
        From files of a desktop
      </button>
      <button
        v-if="job.startsFrom !== 'NOTHING'"
        type="button"
        class="plain"
        @click="begin.mutate('NOTHING')"
      >
        From nothing
      </button>
      <button
        v-if="job.startsFrom !== 'MEDIUM'"
        type="button"
        class="plain"
        @click="begin.mutate('MEDIUM')"
      >
        There is an old drive
      </button>
      <span class="flex basis-full gap-2">
        <ImageChoice
          v-model="imageId"
          class="min-w-0 grow"
          label="Starter image"
          none="from an image on the shelf"
        />
        <button
          type="button"
          class="plain whitespace-nowrap"
          :disabled="!imageId"
          @click="begin.mutate('IMAGE')"
        >
          Take it
        </button>
      </span>
    </div>
    <p v-if="begin.isError.value" class="mt-2 text-brick" role="alert">
      ✕ {{ sentence(begin.error.value) }}
    </p>
  </section>
</template>
