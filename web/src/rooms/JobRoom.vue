<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch, watchEffect } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, ask, Away, sentence } from '../api/client'
import LampRow from '../lamps/LampRow.vue'
import { useCrumbs, useTrail } from '../shed/crumbs'
import { useKeys } from '../shed/keys'
import Build from '../stations/build/BuildStation.vue'
import Close from '../stations/close/CloseStation.vue'
import Fault from '../stations/fault/FaultStation.vue'
import Fit from '../stations/fit/FitStation.vue'
import Intake from '../stations/intake/IntakeStation.vue'
import Plan from '../stations/plan/PlanStation.vue'
import Prove from '../stations/prove/ProveStation.vue'
import Rescue from '../stations/rescue/RescueStation.vue'
import Survey from '../stations/survey/SurveyStation.vue'
import Write from '../stations/write/WriteStation.vue'
import NextStation from '../stations/shared/NextStation.vue'
import CorrectJob from './CorrectJob.vue'

const SCREENS = [Intake, Fault, Rescue, Survey, Plan, Build, Write, Fit, Prove, Close]
const route = useRoute()
const router = useRouter()
const crumbs = useCrumbs()
const show = useTrail()
const id = computed(() => Number(route.params.id))
const query = useQuery({
  queryKey: computed(() => ['job', id.value]),
  queryFn: () => ask(api.GET('/api/jobs/{id}', { params: { path: { id: id.value } } })),
})
const job = computed(() => query.data.value)

/** The station of the address; where it says none, the stopped one, else the one in hand, once and for good. */
const at = computed(() => {
  const said = Number(route.params.station)
  return said >= 1 && said <= 10 ? said : 0
})
// Work that ends lights the next lamp; the screen stays where it is until somebody goes on.
watch(
  [job, at],
  () => {
    if (!job.value || at.value) return
    const here =
      job.value.stations.find((s) => s.state === 'BRICK') ??
      job.value.stations.find((s) => s.state === 'LIT')
    void router.replace({
      path: `/jobs/${id.value}/${here?.number ?? 10}`,
      query: route.query,
    })
  },
  { immediate: true },
)
const correcting = ref(false)
const station = computed(() => job.value?.stations[at.value - 1])

watchEffect(() => {
  if (!job.value || !station.value) return
  show([
    { text: 'Jobs', to: '/jobs' },
    { text: job.value.machine, to: `/jobs/${id.value}` },
    { text: station.value.name, to: '' },
  ])
  crumbs.job = {
    id: id.value,
    name: job.value.machine,
    station: at.value,
    stationName: station.value.name,
  }
})

useKeys(
  [...'1234567890'].map((key, i) => ({
    key,
    says: `station ${i + 1}`,
    does: () => void router.push(`/jobs/${id.value}/${i + 1}`),
  })),
)
</script>

<template>
  <p
    v-if="query.isError.value && !(job && query.error.value instanceof Away)"
    class="sheet border-brick p-6 text-brick"
    role="alert"
  >
    ✕ {{ sentence(query.error.value) }}
    <RouterLink to="/jobs" class="plain ml-4">To the jobs</RouterLink>
  </p>
  <p v-else-if="!job || !station" class="sheet p-6 text-slate">Reading the job …</p>
  <div
    v-else
    class="flex flex-col gap-3"
    :class="at === 5 || at === 3 ? 'min-h-full lg:h-full' : 'min-h-full'"
  >
    <div class="flex shrink-0 flex-wrap items-stretch gap-4 lg:flex-nowrap">
      <div class="tag min-w-[190px] basis-[400px] border border-rule bg-sheet py-2 pr-4 pl-6">
        <h1 class="truncate text-lg font-bold">{{ job.machine }}</h1>
        <p v-if="job.fault" class="truncate text-sm text-slate">“{{ job.fault }}”</p>
        <p class="flex items-baseline gap-3 text-sm text-slate">
          <span class="figure min-w-0 truncate">{{ job.medium }}</span>
          <button type="button" class="shrink-0 text-river underline" @click="correcting = true">
            correct
          </button>
        </p>
      </div>
      <div class="flex min-w-[300px] grow items-center lg:min-w-[590px]">
        <LampRow :stations="job.stations" :job="job.id" :at="at" />
      </div>
    </div>
    <component
      :is="SCREENS[at - 1]"
      :key="`${id}-${at}`"
      class="min-h-0 grow"
      :job="job"
      :station="station"
    />
    <NextStation :job="job" :station="station" />
    <CorrectJob v-if="correcting" :job="job" @close="correcting = false" />
  </div>
</template>
