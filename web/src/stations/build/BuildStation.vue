<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Job, type Station } from '../../api/client'
import { staleJob } from '../../api/live'
import ImageChoice from '../../parts/ImageChoice.vue'
import { count } from '../../shed/units'
import Downloads from '../../parts/Downloads.vue'
import RecipeDialog from './RecipeDialog.vue'
import RehearsalPanel from '../../parts/RehearsalPanel.vue'
import ChainList from '../../parts/ChainList.vue'
import { START } from '../shared/start'
import FindingList from '../shared/FindingList.vue'
import { useStart } from '../shared/useStart'
import WorkPanel from '../../parts/WorkPanel.vue'

const props = defineProps<{ job: Job; station: Station }>()
const start = useStart(() => props.job, 'build')
const planned = computed(() => props.job.stations[4].state === 'MOSS')
const proof = useQuery({
  queryKey: computed(() => ['proof', props.job.id, props.job.builtId, props.job.version]),
  queryFn: () => ask(api.GET('/api/jobs/{id}/proof', { params: { path: { id: props.job.id } } })),
})
const p = computed(() => proof.data.value)
const imageId = ref(0)
const writing = ref(false)
const queries = useQueryClient()
const asItIs = useMutation({
  mutationFn: () =>
    ask(
      api.PUT('/api/jobs/{id}/as-it-is', {
        params: { path: { id: props.job.id } },
        body: { version: props.job.version, imageId: imageId.value },
      }),
    ),
  onSettled: () => staleJob(queries, props.job.id),
})
const tried = computed(() => !!p.value?.sentence)
</script>

<template>
  <div class="gap-3 lg:columns-2 [&>*]:mb-3 [&>*]:break-inside-avoid">
    <WorkPanel v-if="job.workId" :work-id="job.workId" title="Build" paused="Build again" />
    <section v-else class="sheet p-5">
      <template v-if="job.madeBy || (station.state === 'DASH' && job.builtId)">
        <h2 class="head">Nothing is built here</h2>
        <p class="mt-1 text-lg">– {{ station.sentence }}</p>
        <p v-if="job.builtId" class="mt-1 text-slate">
          That every sector reads back is its whole proof.
        </p>
        <RouterLink v-else class="next mt-4 inline-block" :to="`/jobs/${job.id}/8`"
          >Fit the cards</RouterLink
        >
      </template>
      <template v-else-if="station.state === 'MOSS'">
        <h2 class="head">The image is proved</h2>
        <p class="mt-1 text-lg text-moss">✓ {{ station.sentence }}</p>
        <Downloads class="mt-3" :image="job.builtId" />
        <p class="mt-2">
          <a class="text-river underline" :href="`/api/jobs/${job.id}/recipe`"
            >the recipe, as JSON</a
          >
          <button type="button" class="ml-4 text-river underline" @click="writing = true">
            change or compare it
          </button>
        </p>
        <RouterLink class="next mt-4 inline-block" :to="`/jobs/${job.id}/7`"
          >Put it on the card</RouterLink
        >
      </template>
      <template v-else-if="!planned">
        <h2 class="head">There is no settled plan yet</h2>
        <p class="mt-1">The recipe of the image follows from the plan.</p>
        <RouterLink class="next mt-4 inline-block" :to="`/jobs/${job.id}/5`"
          >To the plan</RouterLink
        >
      </template>
      <template v-else>
        <h2 class="head">Make the image, and prove it</h2>
        <p class="mt-1">{{ job.stations[4].sentence }}</p>
        <ul class="mt-2 list-disc pl-5 text-slate">
          <li>The same recipe and the same source give the same bytes.</li>
          <li>Afterwards table, filesystems, every file and the boot chain are checked.</li>
          <li>Only an image that passes all four is kept.</li>
        </ul>
        <p v-if="station.state === 'BRICK'" class="mt-3 text-brick" role="alert">
          ✕ {{ station.sentence }}
        </p>
        <p v-if="start.isError.value" class="mt-3 text-brick" role="alert">
          ✕ {{ sentence(start.error.value) }}
        </p>
        <button
          type="button"
          class="next mt-4"
          :disabled="start.isPending.value"
          @click="start.mutate()"
        >
          Build it
        </button>
        <button type="button" class="ml-4 text-river underline" @click="writing = true">
          the recipe as text
        </button>
      </template>
    </section>
    <section v-if="!job.workId && station.state !== 'MOSS' && !job.madeBy" class="sheet p-5">
      <h2 class="head">Or an image of the shelf, as it is</h2>
      <div class="mt-1 flex gap-2">
        <ImageChoice
          v-model="imageId"
          class="min-w-0 grow"
          label="Image of the shelf"
          none="choose an image"
        />
        <button
          type="button"
          class="plain whitespace-nowrap"
          :disabled="!imageId"
          @click="asItIs.mutate()"
        >
          Take it
        </button>
      </div>
      <p v-if="asItIs.isError.value" class="mt-2 text-brick" role="alert">
        ✕ {{ sentence(asItIs.error.value) }}
      </p>
    </section>
    <section v-if="p && tried && !job.workId" class="sheet p-5">
      <h2 class="head">1 · 2 Table and filesystems</h2>
      <FindingList class="mt-1" :findings="p.findings" />
    </section>
    <section v-if="p && tried && !job.workId" class="sheet p-5">
      <h2 class="head">3 Every file against its source</h2>
      <p v-if="!p.differing.length" class="mt-1 text-moss">
        ✓
        {{
          p.files
            ? `${count(p.files)} ${p.files === 1 ? 'file, identical' : 'files, all identical'}.`
            : p.sentence
        }}
      </p>
      <p v-for="d in p.differing" :key="d" class="figure text-brick">✕ {{ d }}</p>
    </section>
    <section v-if="p && tried && p.boot.length && !job.workId" class="sheet p-5">
      <h2 class="head">4 Boot chain, as the machine walks it</h2>
      <p class="mt-1" :class="START[p.start.kind].tone">
        {{ START[p.start.kind].mark }} {{ p.start.sentence }}
      </p>
      <ChainList v-if="!job.builtId" class="mt-1" :links="p.boot" />
    </section>
    <RehearsalPanel
      v-if="p && tried && p.boot.length && job.builtId && !job.workId"
      class="mt-3 [column-span:all]"
      :job="job.id"
      :image="job.builtId"
    />
    <RecipeDialog v-if="writing" :job="job" @close="writing = false" />
  </div>
</template>
