<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, sentence, type Job } from '../api/client'
import { liveWork } from '../api/live'
import LampRow from '../lamps/LampRow.vue'
import { useCrumbs } from '../shed/crumbs'
import { useKeys } from '../shed/keys'
import NewJob from './NewJob.vue'

const router = useRouter()
const crumbs = useCrumbs()
const at = ref(0)
const opening = ref(false)
const jobs = useQuery({ queryKey: ['jobs'], queryFn: () => ask(api.GET('/api/jobs')) })
const all = computed(() => jobs.data.value ?? [])
const tally = computed(() => {
  const n = (w: string) => all.value.filter((j) => j.waits === w).length
  const parts = [
    `${all.value.filter((j) => !j.closed).length} open`,
    `${n('closed')} closed`,
    n('in your hands') && `${n('in your hands')} in your hands`,
    n('stopped') && `${n('stopped')} stopped`,
    n('the shed is working') && `${n('the shed is working')} running by itself`,
  ]
  return parts.filter(Boolean).join(' · ')
})

const TONES: Record<string, { tone: string; mark: string }> = {
  'in your hands': { tone: 'text-lamp', mark: '●' },
  stopped: { tone: 'text-brick', mark: '✕' },
  'the shed is working': { tone: 'text-river', mark: '↻' },
  closed: { tone: 'text-moss', mark: '✓' },
}

onMounted(() => {
  crumbs.trail = [{ text: 'Jobs', to: '' }]
  crumbs.job = null
})
useKeys([
  { key: 'J', says: 'next row', does: () => move(1) },
  { key: 'K', says: 'previous row', does: () => move(-1) },
  { key: 'N', says: 'open a job', does: () => (opening.value = true) },
])

function move(by: number): void {
  at.value = Math.max(0, Math.min(all.value.length - 1, at.value + by))
  document.querySelectorAll<HTMLElement>('[data-row]')[at.value]?.focus()
}

/** Where it stands; while work runs, how far that is. */
function where(job: Job): string {
  const work = liveWork.get(job.workId)
  return work && job.waits === 'the shed is working' ? `${work.phase}: ${work.doneText}` : job.where
}
</script>

<template>
  <section>
    <div class="mb-3 flex items-start justify-between">
      <div>
        <h1 class="text-xl font-bold">On the bench</h1>
        <p class="text-sm text-slate">{{ tally }}</p>
      </div>
      <button type="button" class="next" @click="opening = true">Open a job</button>
    </div>
    <p v-if="jobs.isError.value" class="sheet border-brick p-4 text-brick" role="alert">
      ✕ {{ sentence(jobs.error.value) }}
    </p>
    <p v-else-if="jobs.isPending.value" class="sheet p-4 text-slate">Reading the jobs …</p>
    <div v-else-if="!all.length" class="sheet p-8">
      <h2 class="text-lg font-bold">No machine is on the bench</h2>
      <p class="mt-1">A job takes one machine from its failing medium to a proved card.</p>
      <button type="button" class="next mt-4" @click="opening = true">Open the first job</button>
    </div>
    <div v-else class="sheet overflow-hidden" role="table" aria-label="Jobs">
      <div
        class="hidden grid-cols-[330px_270px_1fr_150px] gap-3 px-4 py-2 text-sm text-slate lg:grid"
        role="row"
      >
        <span role="columnheader">Machine and its fault, in the owner’s words</span>
        <span role="columnheader">Intake → Close</span>
        <span role="columnheader">Where it stands</span>
        <span role="columnheader" class="text-right">Waits for</span>
      </div>
      <RouterLink
        v-for="(job, i) in all"
        :key="job.id"
        :to="`/jobs/${job.id}`"
        data-row
        role="row"
        class="grid items-center gap-x-3 gap-y-1 border-t border-l-4 border-rule px-4 py-2.5 hover:bg-lampwash lg:grid-cols-[330px_270px_1fr_150px]"
        :class="i === at ? 'border-l-lampfill bg-lampwash' : 'border-l-transparent'"
        @focus="at = i"
        @keydown.enter="router.push(`/jobs/${job.id}`)"
      >
        <span role="cell" class="min-w-0">
          <strong class="block truncate">{{ job.machine }}</strong>
          <span class="block truncate text-sm text-slate">“{{ job.fault }}”</span>
        </span>
        <span role="cell"><LampRow :stations="job.stations" /></span>
        <span role="cell" class="line-clamp-2 text-[15px]">{{ where(job) }}</span>
        <span role="cell" class="font-bold lg:text-right" :class="TONES[job.waits].tone">
          {{ TONES[job.waits].mark }} {{ job.waits }}
        </span>
      </RouterLink>
    </div>
    <NewJob v-if="opening" @close="opening = false" />
  </section>
</template>
