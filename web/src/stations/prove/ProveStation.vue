<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, sentence, type Job, type Station } from '../../api/client'
import { staleJob } from '../../api/live'
import ChainList from '../../parts/ChainList.vue'
import RehearsalPanel from '../../parts/RehearsalPanel.vue'
import SpeedsSheet from '../../parts/SpeedsSheet.vue'
import CheckList from '../shared/CheckList.vue'
import FindingList from '../shared/FindingList.vue'
import { START } from '../shared/start'
import GateLine from '../shared/GateLine.vue'
import RecordLine from '../shared/RecordLine.vue'
import { useRecord } from '../shared/useRecord'
import ShownRows from './ShownRows.vue'

const props = defineProps<{ job: Job; station: Station }>()
const { record, dirty, save, keep, tick, seen, problem, waits } = useRecord(
  () => props.job,
  () => props.station,
)
const queries = useQueryClient()
const router = useRouter()
const made = computed(() => props.job.builtId > 0 || !!props.job.madeBy)
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const steps = computed(
  () => catalogue.data.value?.machines.find((m) => m.key === props.job.profile)?.prove ?? [],
)
const path = computed(() => ({ params: { path: { job: props.job.id } } }))
const prediction = useQuery({
  queryKey: computed(() => ['prediction', props.job.id, props.job.cardId, props.job.builtId]),
  queryFn: () => ask(api.GET('/api/jobs/{job}/prediction', path.value)),
  enabled: made,
})
const p = computed(() => prediction.data.value)
const shown = useQuery({
  queryKey: computed(() => ['shown', props.job.id]),
  queryFn: () => ask(api.GET('/api/jobs/{job}/shown', path.value)),
  enabled: made,
})
const rows = computed(() => shown.data.value ?? [])
watch(record, () => void keep())
const toBoard = useMutation({
  mutationFn: () => ask(api.POST('/api/jobs/{job}/failed-proof', path.value)),
  onSuccess: async () => {
    await staleJob(queries, props.job.id)
    await router.push(`/jobs/${props.job.id}/2`)
  },
})
</script>

<template>
  <section v-if="!made" class="sheet p-8">
    <h2 class="text-lg font-bold">Nothing is built yet that could be proved</h2>
    <RouterLink class="next mt-4 inline-block" :to="`/jobs/${job.id}/6`">To the build</RouterLink>
  </section>
  <div v-else class="grid gap-3 lg:grid-cols-[1fr_400px]">
    <div class="space-y-3">
      <GateLine v-if="station.state !== 'MOSS'" :job="job" />
      <section class="sheet p-4">
        <h2 class="head">What the machine shows</h2>
        <ShownRows v-if="rows.length" :rows="rows" :seen="seen" />
        <FindingList v-if="p?.findings.length" class="mt-2" :findings="p.findings" />
        <CheckList class="mt-1 text-[15px]" :steps="steps" :tick="tick" />
        <textarea
          v-model="record.notes"
          class="field mt-2"
          rows="1"
          maxlength="10000"
          placeholder="notes"
          aria-label="Notes"
        />
        <fieldset class="mt-2 flex gap-6">
          <legend class="sr-only">Verdict</legend>
          <label class="flex items-center gap-2"
            ><input v-model="record.choice" type="radio" name="verdict" value="pass" />as
            predicted</label
          >
          <label class="flex items-center gap-2"
            ><input v-model="record.choice" type="radio" name="verdict" value="fail" />not as
            predicted</label
          >
        </fieldset>
        <RecordLine class="mt-2" :problem="problem()" :waits="waits" />
        <template v-if="station.state === 'BRICK' && !dirty">
          <p class="mt-2 text-brick">✕ {{ station.sentence }}</p>
          <button type="button" class="next mt-2" @click="toBoard.mutate()">
            To the fault board with it
          </button>
          <p v-if="toBoard.isError.value" class="mt-2 text-brick" role="alert">
            ✕ {{ sentence(toBoard.error.value) }}
          </p>
        </template>
        <button
          v-else-if="station.state !== 'MOSS' || dirty"
          type="button"
          class="next mt-3"
          @click="save.mutate(true)"
        >
          Settle the proof
        </button>
        <p v-else class="mt-2 text-moss">✓ {{ station.sentence }}</p>
        <p v-if="station.state !== 'MOSS'" class="mt-2 text-sm text-slate">
          A pass needs every point ticked, every figure read or said not to be shown, and a reason
          where one differs.
        </p>
      </section>
    </div>
    <div class="space-y-3">
      <section v-if="p" class="sheet p-4">
        <h2 class="head">{{ p.boot.length ? 'Boot chain' : 'What starts' }} on {{ p.readFrom }}</h2>
        <p class="mt-1" :class="START[p.start.kind].tone">
          {{ START[p.start.kind].mark }} {{ p.start.sentence }}
        </p>
        <ChainList v-if="!job.builtId" class="mt-2" :links="p.boot" />
      </section>
      <SpeedsSheet :job="job.id" after />
    </div>
    <RehearsalPanel
      v-if="p?.boot.length && job.builtId"
      class="lg:col-span-full"
      :job="job.id"
      :image="job.builtId"
      card
    />
  </div>
</template>
