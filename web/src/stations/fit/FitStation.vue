<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Job, Station } from '../../api/client'
import ChainLine from '../../parts/ChainLine.vue'
import Pictures from '../../parts/Pictures.vue'
import { usePictures } from '../../parts/usePictures'
import { useKeys } from '../../shed/keys'
import { paper } from '../../shed/paper'
import BenchCard from '../shared/BenchCard.vue'
import CheckList from '../shared/CheckList.vue'
import GateLine from '../shared/GateLine.vue'
import RecordLine from '../shared/RecordLine.vue'
import { useRecord } from '../shared/useRecord'

const props = defineProps<{ job: Job; station: Station }>()
const { record, dirty, save, tick, problem, waits } = useRecord(
  () => props.job,
  () => props.station,
)
const bench = ref(false)
const picturing = ref('')
/** Storage stays as it is: something else is mended. */
const mending = computed(() => props.job.verdict.kind === 'other')
const picturesOf = usePictures(() => props.job.id)
/** The list as the shed puts it together for the case that is there: opened, fitted, closed backwards. */
const rows = computed(() => props.job.fitting.rows)
const steps = computed(() => rows.value.map((r) => r.step))
const tickOf = (i: number) => tick(rows.value[i].index)
const head = (i: number) => rows.value[i].head
const place = (i: number) => `fit:${rows.value[i].index}`
function choose(variant: string): void {
  record.choice = variant
  save.mutate(false)
}
/** A case is opened by its own steps: without them the card would lead into it by half the list. */
const unsaid = computed(
  () => !mending.value && props.job.fitting.variants.length > 0 && !props.job.fitting.chosen,
)
const asking = ref(false)
function toBench(): void {
  if (unsaid.value) asking.value = true
  else bench.value = true
}
useKeys([{ key: 'B', says: 'the list as a bench card', does: () => toBench() }])
</script>

<template>
  <div class="grid gap-3 lg:grid-cols-[1fr_360px]">
    <section class="sheet p-5">
      <div class="flex items-center justify-between">
        <h2 class="head">
          {{
            mending
              ? job.verdict.parts.length
                ? `Mend or replace: ${job.verdict.parts.join(', ')}`
                : `Find and mend one of: ${job.verdict.remain.join(', ')}`
              : `Fit the card: ${job.card || 'not written yet'}`
          }}
        </h2>
        <span class="flex flex-wrap gap-3">
          <a class="plain" target="_blank" :href="`/api/jobs/${job.id}/bench.pdf?paper=${paper()}`"
            >On paper</a
          >
          <button type="button" class="plain" @click="toBench">
            Bench card <span class="key">B</span>
          </button>
        </span>
      </div>
      <p v-if="mending" class="mt-2">
        {{ job.verdict.sentence }} Note what you did; no card is fitted.
      </p>
      <fieldset v-if="!mending && job.fitting.variants.length" class="mt-2 flex flex-wrap gap-x-6">
        <legend class="sr-only">Which case is before you</legend>
        <label v-for="v in job.fitting.variants" :key="v" class="flex items-center gap-2">
          <input
            type="radio"
            name="case"
            :value="v"
            :checked="record.choice === v"
            @change="choose(v)"
          />{{ v }}
        </label>
        <span
          v-if="unsaid"
          :class="asking ? 'font-bold text-brick' : 'text-slate'"
          :role="asking ? 'alert' : undefined"
          >{{
            asking ? '▲ Say first which case is before you.' : 'Which case is before you?'
          }}</span
        >
      </fieldset>
      <CheckList
        v-if="!mending"
        class="mt-2"
        why
        :steps="steps"
        :tick="tickOf"
        :head="head"
        :pictures="(i: number) => picturesOf(place(i))"
        @picture="(i: number) => (picturing = place(i))"
      />
    </section>
    <section class="sheet p-5">
      <GateLine v-if="station.state !== 'MOSS'" class="mb-3" :job="job" />
      <p class="text-slate">Local electrical rules and licensed practice come before this list.</p>
      <div v-if="!mending" class="mt-3">
        <h2 class="head">Set before power</h2>
        <ChainLine class="mt-1" :job="job.id" settings />
      </div>
      <label class="mt-3 block">
        <span class="head">Notes</span>
        <textarea
          v-model="record.notes"
          class="field mt-1"
          rows="6"
          maxlength="10000"
          placeholder="screws, clips, where they lie now"
        />
      </label>
      <RecordLine class="mt-2" :problem="problem()" :waits="waits" />
      <div class="mt-3 flex gap-3">
        <button
          v-if="station.state !== 'MOSS'"
          type="button"
          class="next"
          @click="save.mutate(true)"
        >
          {{ mending ? 'It is mended' : 'It is fitted' }}
        </button>
        <button
          v-if="dirty || station.state === 'MOSS'"
          type="button"
          class="plain"
          @click="save.mutate(false)"
        >
          {{ station.state === 'MOSS' ? 'Open again' : 'Keep' }}
        </button>
      </div>
    </section>
    <Pictures
      v-if="picturing"
      :job="job.id"
      :place="picturing"
      :title="`Pictures of step ${rows.findIndex((_, i) => place(i) === picturing) + 1}`"
      @close="picturing = ''"
    />
    <BenchCard
      v-if="bench && steps.length"
      title="Fit"
      :steps="steps"
      :tick="tickOf"
      :head="head"
      :waits="waits"
      :gate="job.gate"
      @changed="save.mutate(false)"
      @close="bench = false"
    />
  </div>
</template>
