<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, sentence } from '../api/client'
import { liveWork } from '../api/live'
import ProgressBar from '../shed/ProgressBar.vue'

/** Long work: what, how far, how fast, how long still; it can be left, paused and cancelled. */
const props = defineProps<{ workId: number; title: string; paused: string }>()
const queries = useQueryClient()
const asked = useQuery({
  queryKey: computed(() => ['work', props.workId]),
  queryFn: () => ask(api.GET('/api/runs/{id}', { params: { path: { id: props.workId } } })),
})
const work = computed(() => liveWork.get(props.workId) ?? asked.data.value)
const share = computed(() =>
  work.value && work.value.total > 0
    ? Math.floor((work.value.done / work.value.total) * 1000) / 10
    : 0,
)
const order = useMutation({
  mutationFn: (what: 'pause' | 'resume' | 'cancel') =>
    ask(api.POST(`/api/runs/{id}/${what}`, { params: { path: { id: props.workId } } })),
  onSettled: () => queries.invalidateQueries(),
})
</script>

<template>
  <section v-if="work" class="sheet p-5" :aria-label="title">
    <h2 class="head">{{ title }}</h2>
    <p class="text-slate">
      {{
        work.state === 'PAUSED'
          ? '‖ paused'
          : work.state === 'QUEUED'
            ? 'waiting for its turn'
            : '↻ ' + work.phase
      }}
    </p>
    <p class="figure mt-2 text-4xl font-bold">{{ share.toFixed(1) }} %</p>
    <ProgressBar class="mt-3" :share="share" :title="title" />
    <p class="figure mt-2 text-[15px]" role="status">{{ work.doneText }}</p>
    <p class="figure text-[15px] text-slate">
      {{ [work.rateText, work.leftText].filter(Boolean).join(' · ') || '\u00a0' }}
    </p>
    <p v-if="work.message" class="mt-2">{{ work.message }}</p>
    <div class="mt-4 flex flex-wrap gap-3">
      <button
        v-if="work.state === 'PAUSED'"
        type="button"
        class="next"
        @click="order.mutate('resume')"
      >
        {{ paused }}
      </button>
      <button v-else type="button" class="plain" @click="order.mutate('pause')">Pause</button>
      <button type="button" class="plain" @click="order.mutate('cancel')">Cancel</button>
    </div>
    <p v-if="order.isError.value" class="mt-2 text-brick" role="alert">
      ✕ {{ sentence(order.error.value) }}
    </p>
    <p v-if="work.state !== 'PAUSED'" class="mt-3 text-sm text-slate">
      You can leave this screen; it goes on by itself.
    </p>
  </section>
</template>
