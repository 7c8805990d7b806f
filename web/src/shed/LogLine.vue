<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { CameraIcon } from '@heroicons/vue/24/outline'
import { computed, onUnmounted, ref } from 'vue'
import { api, ask, sentence } from '../api/client'
import Pictures from '../parts/Pictures.vue'
import { useCrumbs } from './crumbs'
import { useKeys } from './keys'
import { useSettings } from './settings'

/** The line at the foot: type, Enter, and it is stamped into the job at hand. */
const crumbs = useCrumbs()
const settings = useSettings()
const queries = useQueryClient()
const text = ref('')
const box = ref<HTMLInputElement | null>(null)
const open = ref(false)
const picturing = ref(false)
const clock = ref(now())
const timer = setInterval(() => (clock.value = now()), 5000)
onUnmounted(() => clearInterval(timer))

const jobId = computed(() => crumbs.job?.id ?? 0)
const lines = useQuery({
  queryKey: computed(() => ['log', jobId.value]),
  queryFn: () => ask(api.GET('/api/jobs/{job}/log', { params: { path: { job: jobId.value } } })),
  enabled: computed(() => jobId.value > 0 && open.value),
})
const write = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/jobs/{job}/log', {
        params: { path: { job: jobId.value } },
        body: { station: crumbs.job?.station ?? 1, author: settings.author, text: text.value },
      }),
    ),
  onSuccess: () => {
    text.value = ''
    void queries.invalidateQueries({ queryKey: ['log'] })
  },
})

const correcting = ref(0)
const corrected = ref('')
const correct = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/jobs/{job}/log/{line}/correction', {
        params: { path: { job: jobId.value, line: correcting.value } },
        body: { station: crumbs.job?.station ?? 1, author: settings.author, text: corrected.value },
      }),
    ),
  onSuccess: () => {
    correcting.value = 0
    void queries.invalidateQueries({ queryKey: ['log'] })
  },
})

useKeys([{ key: 'L', says: 'write in the logbook', does: () => box.value?.focus() }])

function now(): string {
  return new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
}

function stamp(at: string): string {
  return new Date(at).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  })
}
</script>

<template>
  <footer data-frame class="shrink-0 border-t border-rule bg-sheet">
    <div
      v-if="open && crumbs.job"
      class="max-h-60 overflow-y-auto border-b border-rule px-5 py-2"
      aria-label="Logbook"
    >
      <p class="flex gap-3 text-sm">
        <a class="text-river underline" :href="`/api/jobs/${jobId}/log.md`" download
          >export as Markdown</a
        >
        <a class="text-river underline" :href="`/api/jobs/${jobId}/log.csv`" download>as CSV</a>
      </p>
      <p v-if="lines.data.value?.length === 0" class="text-slate">
        Nothing is written yet. Type below and press Enter.
      </p>
      <div v-for="l in lines.data.value" :key="l.id" class="flex gap-3 py-0.5">
        <span class="figure w-32 shrink-0 text-sm text-slate">{{ stamp(l.at) }}</span>
        <span class="w-32 shrink-0 truncate text-slate">{{ l.author }}</span>
        <form
          v-if="correcting === l.id"
          class="flex min-w-0 grow gap-2"
          @submit.prevent="corrected.trim() && correct.mutate()"
        >
          <input
            v-model="corrected"
            class="field min-w-0 py-0!"
            maxlength="2000"
            aria-label="The corrected line"
            @keydown.esc="correcting = 0"
          />
          <span v-if="correct.isError.value" class="text-sm text-brick" role="alert"
            >✕ {{ sentence(correct.error.value) }}</span
          >
        </form>
        <span v-else class="min-w-0 grow" :class="l.corrected ? 'text-slate line-through' : ''"
          >{{ l.text
          }}<span v-if="l.corrects" class="text-sm text-slate"> (a correction)</span></span
        >
        <button
          v-if="!l.corrected && correcting !== l.id"
          type="button"
          class="shrink-0 text-sm text-river underline"
          @click="((correcting = l.id), (corrected = l.text))"
        >
          correct
        </button>
        <span v-if="l.unit" class="figure shrink-0 text-moss">✓ {{ l.amount }} {{ l.unit }}</span>
      </div>
    </div>
    <form
      class="flex h-[44px] items-center gap-3 px-5"
      @submit.prevent="text.trim() && write.mutate()"
    >
      <span class="key">L</span>
      <template v-if="crumbs.job">
        <button
          type="button"
          class="hidden whitespace-nowrap hover:text-river sm:block"
          :aria-expanded="open"
          @click="open = !open"
        >
          {{ crumbs.job.name }} · {{ crumbs.job.stationName }} {{ open ? '▾' : '▴' }}
        </button>
        <input
          ref="box"
          v-model="text"
          class="min-w-0 grow border-b border-rule bg-transparent py-0.5 placeholder:text-slate"
          maxlength="2000"
          placeholder="Write in the logbook … a reading such as “5.02 V on pin 1” is kept as a number"
          aria-label="Write in the logbook"
        />
        <span v-if="write.isError.value" class="text-sm text-brick" role="alert"
          >✕ {{ sentence(write.error.value) }}</span
        >
      </template>
      <button
        v-if="crumbs.job"
        type="button"
        class="text-slate hover:text-river"
        aria-label="Pictures of the logbook"
        @click="picturing = true"
      >
        <CameraIcon class="h-5 w-5" aria-hidden="true" />
      </button>
      <span v-else class="grow text-slate">Open a job to write in its logbook.</span>
      <span class="figure text-sm text-slate">{{ clock }}</span>
    </form>
    <Pictures
      v-if="picturing && jobId"
      :job="jobId"
      place="log"
      title="Pictures of the logbook"
      @close="picturing = false"
    />
  </footer>
</template>
