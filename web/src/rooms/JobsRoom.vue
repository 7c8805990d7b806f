<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced, useLocalStorage } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { api, ask, sentence, type JobRow } from '../api/client'
import { liveWork } from '../api/live'
import LampRow from '../lamps/LampRow.vue'
import { useCrumbs, useTrail } from '../shed/crumbs'
import { useKeys } from '../shed/keys'
import { count } from '../shed/units'
import DemoLine from './DemoLine.vue'
import NewJob from './NewJob.vue'
import TakeJobIn from './TakeJobIn.vue'

const PAGE = 50
const crumbs = useCrumbs()
const show = useTrail()
const at = ref(0)
const opening = ref(false)
const taking = ref(false)
const words = ref('')
const find = refDebounced(words, 200)
const waits = useLocalStorage('shed jobs waits', '')
const size = ref(PAGE)
watch([find, waits], () => (size.value = PAGE))
const jobs = useQuery({
  queryKey: computed(() => ['jobs', 'list', find.value, waits.value, size.value]),
  queryFn: () =>
    ask(
      api.GET('/api/jobs', {
        params: {
          query: { find: find.value, waits: waits.value, size: Math.min(100, size.value) },
        },
      }),
    ),
  placeholderData: keepPreviousData,
})
const page = computed(() => jobs.data.value)
const all = computed(() => page.value?.rows ?? [])
const everything = computed(() => page.value?.waiting.reduce((n, w) => n + w.count, 0) ?? 0)

const TONES: Record<string, { tone: string; mark: string }> = {
  'in your hands': { tone: 'text-lamp', mark: '●' },
  stopped: { tone: 'text-brick', mark: '✕' },
  'the shed is working': { tone: 'text-river', mark: '↻' },
  closed: { tone: 'text-moss', mark: '✓' },
}
const WAITS = Object.keys(TONES)
const n = (w: string) => page.value?.waiting.find((x) => x.waits === w)?.count ?? 0

onMounted(() => {
  show([{ text: 'Jobs', to: '' }])
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
function where(job: JobRow): string {
  const work = liveWork.get(job.workId)
  return work && job.waits === 'the shed is working' ? `${work.phase}: ${work.doneText}` : job.where
}
</script>

<template>
  <section>
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h1 class="text-xl font-bold">On the bench</h1>
      <div class="flex flex-wrap gap-1" role="group" aria-label="Show jobs that are">
        <button
          type="button"
          class="plain py-1! text-[15px]"
          :aria-pressed="waits === ''"
          :class="waits === '' ? 'border-2 border-ink! font-bold' : ''"
          @click="waits = ''"
        >
          all <span class="figure">{{ count(everything) }}</span>
        </button>
        <button
          v-for="w in WAITS"
          :key="w"
          type="button"
          class="plain py-1! text-[15px]"
          :aria-pressed="waits === w"
          :class="waits === w ? 'border-2 border-ink! font-bold' : ''"
          @click="waits = waits === w ? '' : w"
        >
          <span :class="TONES[w].tone" aria-hidden="true">{{ TONES[w].mark }}</span> {{ w }}
          <span class="figure">{{ count(n(w)) }}</span>
        </button>
      </div>
      <input
        v-model="words"
        class="field w-56!"
        placeholder="part of machine or fault"
        aria-label="Jobs whose machine, fault or medium has these letters"
        maxlength="200"
      />
      <span class="grow" />
      <button type="button" class="next" @click="opening = true">Open a job</button>
    </div>
    <DemoLine />
    <p v-if="jobs.isError.value" class="sheet border-brick p-4 text-brick" role="alert">
      ✕ {{ sentence(jobs.error.value) }}
    </p>
    <p v-else-if="jobs.isPending.value" class="sheet p-4 text-slate">Reading the jobs …</p>
    <p v-else-if="!all.length && (find || waits)" class="sheet p-4 text-slate">
      No job is like that.
      <button type="button" class="text-river underline" @click="((words = ''), (waits = ''))">
        Show all
      </button>
    </p>
    <div v-else-if="!all.length" class="sheet p-8">
      <h2 class="text-lg font-bold">No machine is on the bench</h2>
      <p class="mt-1">A job takes one machine from its failing medium to a proved card.</p>
      <button type="button" class="next mt-4" @click="opening = true">Open the first job</button>
    </div>
    <div v-else class="sheet overflow-hidden">
      <div
        class="hidden grid-cols-[330px_270px_1fr_170px] gap-3 border-l-4 border-l-transparent px-4 py-2 text-sm text-slate lg:grid"
        aria-hidden="true"
      >
        <span>Machine and its fault, in the owner’s words</span>
        <span>Intake → Close</span>
        <span>Where it stands</span>
        <span>Waits for</span>
      </div>
      <ul aria-label="Jobs">
        <li v-for="(job, i) in all" :key="job.id">
          <RouterLink
            :to="`/jobs/${job.id}`"
            data-row
            class="grid items-center gap-x-3 gap-y-1 border-t border-l-4 border-rule px-4 py-2.5 hover:bg-lampwash lg:grid-cols-[330px_270px_1fr_170px]"
            :class="i === at ? 'border-l-lampfill bg-lampwash' : 'border-l-transparent'"
            @focus="at = i"
          >
            <span class="min-w-0">
              <strong class="block truncate">{{ job.machine }}</strong>
              <span v-if="job.fault" class="block truncate text-sm text-slate"
                >“{{ job.fault }}”</span
              >
            </span>
            <LampRow :stations="job.stations" />
            <span class="line-clamp-2 text-[15px]">{{ where(job) }}</span>
            <span class="font-bold" :class="TONES[job.waits].tone">
              {{ TONES[job.waits].mark }} {{ job.waits }}
            </span>
          </RouterLink>
        </li>
      </ul>
      <p v-if="(page?.total ?? 0) > all.length" class="border-t border-rule px-4 py-2">
        <span class="text-slate"
          >{{ count(all.length) }} of {{ count(page?.total ?? 0) }} are shown.</span
        >
        <button
          v-if="size < 100"
          type="button"
          class="ml-3 text-river underline"
          @click="size += PAGE"
        >
          Show more
        </button>
        <span v-else class="ml-3 text-slate">Narrow them by a word.</span>
      </p>
    </div>
    <NewJob v-if="opening" @close="opening = false" @take="((opening = false), (taking = true))" />
    <TakeJobIn v-if="taking" @close="taking = false" />
  </section>
</template>
