<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, ask, sentence, type Job, type Station, type Wish } from '../../api/client'
import Sounding from '../../sounding/Sounding.vue'
import { count } from '../../shed/units'
import { useStart } from '../shared/useStart'
import Beginning from './Beginning.vue'
import BringFiles from './BringFiles.vue'
import RescueWishes from './RescueWishes.vue'
import WorkPanel from '../../parts/WorkPanel.vue'

const props = defineProps<{ job: Job; station: Station }>()
const wish = ref<Wish>({ retries: 2, filesFirst: false, skipFree: false })
const start = useStart(
  () => props.job,
  'rescue',
  () => wish.value,
)
const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
const medium = computed(() => media.data.value?.find((m) => m.id === props.job.mediumId))
const image = useQuery({
  queryKey: computed(() => ['image', props.job.rescuedId]),
  queryFn: () =>
    ask(api.GET('/api/images/{id}', { params: { path: { id: props.job.rescuedId } } })),
  enabled: computed(() => props.job.rescuedId > 0),
})
const busy = computed(() => props.job.workId > 0)
const map = useQuery({
  queryKey: computed(() => ['map', props.job.id, props.job.workId, props.job.rescuedId]),
  queryFn: () =>
    busy.value
      ? ask(api.GET('/api/runs/{id}/map', { params: { path: { id: props.job.workId } } }))
      : ask(api.GET('/api/jobs/{id}/map', { params: { path: { id: props.job.id } } })),
  enabled: computed(() => busy.value || props.job.rescuedId > 0),
})
const hits = useQuery({
  queryKey: computed(() => ['hits', props.job.workId]),
  queryFn: () =>
    ask(api.GET('/api/runs/{id}/hits', { params: { path: { id: props.job.workId } } })),
  enabled: busy,
})
useIntervalFn(() => busy.value && void map.refetch(), 1000)
useIntervalFn(() => busy.value && tally.value.failed > 0 && void hits.refetch(), 3000)
const running = useQuery({
  queryKey: computed(() => ['wish', props.job.workId]),
  queryFn: () =>
    ask(api.GET('/api/runs/{id}/wish', { params: { path: { id: props.job.workId } } })),
  enabled: busy,
})
watch(
  () => running.data.value,
  (w) => w && (wish.value = { ...w }),
)
const change = useMutation({
  mutationFn: () =>
    ask(
      api.PUT('/api/runs/{id}/wish', {
        params: { path: { id: props.job.workId } },
        body: wish.value,
      }),
    ),
})
const lost = computed(() => (busy.value ? hits.data.value : image.data.value?.hits) ?? [])
const ranges = computed(() => map.data.value?.ranges ?? [])
const total = computed(() => medium.value?.sectors ?? 0)
const marks = computed(() =>
  lost.value.map((h) => ({
    at: h.first,
    text: h.path || h.kind,
    note: `${count(h.sectors)} ${h.sectors === 1 ? 'sector' : 'sectors'} lost`,
  })),
)
const tally = computed(() => {
  const sum = (s: string) =>
    ranges.value.filter((r) => r.state === s).reduce((n, r) => n + r.length, 0)
  return { read: sum('READ'), late: sum('LATE'), failed: sum('FAILED'), unread: sum('UNREAD') }
})
</script>

<template>
  <div
    v-if="job.startsFrom !== 'MEDIUM'"
    class="grid gap-3 lg:grid-cols-[1fr_400px] lg:grid-rows-[minmax(0,1fr)]"
  >
    <BringFiles v-if="job.startsFrom === 'FILES'" :job="job" />
    <section v-else class="sheet self-start p-5">
      <h2 class="head">Nothing to rescue</h2>
      <p class="mt-1 text-xl">– {{ station.sentence }}</p>
    </section>
    <Beginning class="self-start" :job="job" />
  </div>
  <div v-else class="grid gap-3 lg:grid-cols-[1fr_420px] lg:grid-rows-[minmax(0,1fr)]">
    <Sounding
      title="Sounding of the old medium"
      :note="medium?.name"
      :total="total"
      :strata="[]"
      :ranges="ranges.length ? ranges : [{ start: 0, length: total, state: 'UNREAD' }]"
      :marks="marks"
      :slowest="map.data.value?.slowest"
      straight
    />
    <div class="min-h-0 space-y-3 overflow-y-auto">
      <WorkPanel v-if="busy" :work-id="job.workId" title="Rescue" paused="Go on with the rescue" />
      <RescueWishes
        v-if="busy || !job.rescuedId"
        v-model="wish"
        :running="busy"
        @change="busy && change.mutate()"
      />
      <section v-if="!busy && !job.rescuedId" class="sheet p-5">
        <h2 class="head">Image it before anything else is changed</h2>
        <p v-if="medium" class="mt-1">
          {{ medium.name }}, <span class="figure">{{ count(medium.sectors) }} sectors</span>, serial
          <span class="figure">{{ medium.serial || 'none' }}</span>
        </p>
        <ul class="mt-2 list-disc pl-5 text-slate">
          <li>It is only read, never written.</li>
          <li>
            Good areas come first; what fails is tried again afterwards, from behind, then sector by
            sector.
          </li>
          <li>It can be paused, and goes on after the shed was stopped.</li>
        </ul>
        <p v-if="station.state === 'BRICK'" class="mt-3 text-brick" role="alert">
          ✕ {{ station.sentence }}
        </p>
        <p v-if="start.isError.value" class="mt-3 text-brick" role="alert">
          ✕ {{ sentence(start.error.value) }}
        </p>
        <RouterLink v-if="!job.mediumId" :to="`/jobs/${job.id}/1`" class="next mt-4 inline-block"
          >Choose the old medium</RouterLink
        >
        <button
          v-else
          type="button"
          class="next mt-4"
          :disabled="start.isPending.value"
          @click="start.mutate()"
        >
          Start the rescue
        </button>
      </section>
      <Beginning v-if="!busy && !job.rescuedId" :job="job" />
      <section v-if="!busy && image.data.value" class="sheet p-5">
        <h2 class="head">What was saved</h2>
        <p class="figure mt-1 text-3xl font-bold">{{ image.data.value.size }}</p>
        <p :class="image.data.value.lost ? 'text-brick' : 'text-moss'">
          {{ image.data.value.lost ? '▲' : '✓' }} {{ station.sentence }}
        </p>
        <p class="mt-2 text-sm text-slate">SHA-256</p>
        <p class="figure text-sm break-all">{{ image.data.value.sha256 }}</p>
        <RouterLink class="next mt-4 inline-block" :to="`/jobs/${job.id}/4`"
          >Read what is on it</RouterLink
        >
      </section>
      <section v-if="ranges.length" class="sheet p-5">
        <h2 class="head">Sector by sector</h2>
        <dl class="figure mt-1 grid grid-cols-[1fr_auto] gap-y-0.5 text-[15px]">
          <dt>✓ read</dt>
          <dd class="text-right">{{ count(tally.read) }}</dd>
          <dt class="text-lamp">● read on a retry</dt>
          <dd class="text-right">{{ count(tally.late) }}</dd>
          <dt class="text-brick">✕ failed</dt>
          <dd class="text-right">{{ count(tally.failed) }}</dd>
          <template v-if="busy || tally.unread">
            <dt class="text-slate">~ {{ busy ? 'not read yet' : 'left out' }}</dt>
            <dd class="text-right">{{ count(tally.unread) }}</dd>
          </template>
        </dl>
        <p v-if="map.data.value?.another" class="mt-2 text-sm text-slate">
          {{ map.data.value.another }}
        </p>
      </section>
      <section v-if="lost.length" class="sheet p-5">
        <h2 class="head">What the holes hit</h2>
        <ul class="mt-1 divide-y divide-rule text-[15px]">
          <li v-for="h in lost" :key="h.kind + h.path" class="flex justify-between gap-3 py-1">
            <span class="figure min-w-0 truncate" :title="h.path || h.kind">{{
              h.path || h.kind
            }}</span>
            <span class="figure shrink-0 text-brick"
              >{{ count(h.sectors) }}
              <span class="text-slate">{{
                h.bytes ? `of ${count(Math.ceil(h.bytes / 512))} sectors` : 'sectors'
              }}</span></span
            >
          </li>
        </ul>
      </section>
    </div>
  </div>
</template>
