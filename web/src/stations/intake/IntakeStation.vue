<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { useDebounceFn } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { api, ask, sentence, type Job, type Station } from '../../api/client'
import { staleJob } from '../../api/live'
import { useKeys } from '../../shed/keys'
import BringIn from '../../parts/BringIn.vue'
import SpeedsSheet from '../../parts/SpeedsSheet.vue'
import Pictures from '../../parts/Pictures.vue'
import { usePictures } from '../../parts/usePictures'
import BenchCard from '../shared/BenchCard.vue'
import CheckList from '../shared/CheckList.vue'
import RecordLine from '../shared/RecordLine.vue'
import { useRecord } from '../shared/useRecord'
import SymptomPicker from './SymptomPicker.vue'

const props = defineProps<{ job: Job; station: Station }>()
const { record, save, keep, tick, problem, waits } = useRecord(
  () => props.job,
  () => props.station,
)
const queries = useQueryClient()
const bench = ref(false)
const bringing = ref(false)
const picturing = ref('')
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
const profile = computed(() =>
  catalogue.data.value?.machines.find((m) => m.key === props.job.profile),
)
/** Numbers that the machine or one of its systems asks for, each once. */
const counted = computed(() => {
  const generations = catalogue.data.value?.systems ?? []
  const needs = [
    ...(profile.value?.prerequisites ?? []).flatMap((p) => (p.need ? [p.need] : [])),
    ...generations.filter((g) => profile.value?.systems.includes(g.key)).flatMap((g) => g.needs),
  ]
  return needs.filter((n, i) => needs.findIndex((x) => x.of === n.of) === i)
})
function has(of: string, typed: string): void {
  const rest = Object.entries(record.has ?? {}).filter(([k]) => k !== of)
  const now = typed === '' || Number.isNaN(Number(typed)) ? rest : [...rest, [of, Number(typed)]]
  record.has = Object.fromEntries(now)
  void keepNumbers()
}
// The plan holds them against what it needs, so they are kept when Intake is done as well.
const keepNumbers = useDebounceFn(() => save.mutate(props.station.state === 'MOSS'), 500)
const steps = computed(() => profile.value?.inspection ?? [])
const originals = computed(() => (media.data.value ?? []).filter((m) => !m.card))
const picturesOf = usePictures(() => props.job.id)
const choose = useMutation({
  mutationFn: (mediumId: number) =>
    ask(
      api.PUT('/api/jobs/{id}/medium', {
        params: { path: { id: props.job.id } },
        body: { mediumId },
      }),
    ),
  onSettled: () => staleJob(queries, props.job.id),
})
watch(record, () => void keep())
/** What stands against power: what was found, or what nobody looked at yet. */
const gate = computed(() => {
  const { gate: text, points } = props.job
  if (!text) return { text: '✓ Nothing stands against power.', tone: 'border-moss text-moss' }
  return points.some((p) => p.state === 'bad')
    ? { text: `✕ ${text}`, tone: 'border-brick text-brick' }
    : { text: `○ ${text}`, tone: 'border-lampfill text-lamp' }
})
/** Whether somebody said that it is done while points before power were open. */
const refused = ref(false)
async function finish(): Promise<void> {
  refused.value = false
  try {
    await save.mutateAsync(true)
  } catch {
    // Its own sentence stands there already.
    return
  }
  await nextTick()
  refused.value = props.station.state === 'LIT' && !!props.job.gate
  if (!refused.value) return
  const open = props.job.points.find((p) => p.state === 'open' && p.sentence)
  document.getElementById(`step-${open?.index}`)?.focus()
}
useKeys([{ key: 'B', says: 'the list as a bench card', does: () => (bench.value = true) }])
</script>

<template>
  <div class="grid gap-3 lg:grid-cols-[1fr_380px]">
    <section class="sheet p-4">
      <div class="flex items-center justify-between gap-3">
        <h2 class="head">Look before power: {{ job.profileName }}</h2>
        <div class="flex gap-2">
          <button type="button" class="plain" @click="picturing = 'map'">
            Fastener map
            <span v-if="picturesOf('map').length" class="figure">{{
              picturesOf('map').length
            }}</span>
          </button>
          <button type="button" class="plain" @click="bench = true">
            Bench card <span class="key">B</span>
          </button>
        </div>
      </div>
      <p
        v-if="steps.length"
        class="mt-2 border-l-4 py-1 pl-3 font-bold"
        :class="gate.tone"
        role="status"
      >
        {{ gate.text }}
      </p>
      <CheckList
        :steps="steps"
        :tick="tick"
        :points="job.points"
        :pictures="(i: number) => picturesOf(`inspection:${i}`)"
        class="mt-1"
        @picture="(i: number) => (picturing = `inspection:${i}`)"
      />
      <template v-if="profile?.prerequisites.length">
        <h2 class="head mt-3">What must be there</h2>
        <ul class="list-disc pl-6 text-[15px]">
          <li v-for="p in profile.prerequisites" :key="p.text">{{ p.text }}</li>
        </ul>
      </template>
      <template v-if="counted.length">
        <h2 class="head mt-3">What the machine has</h2>
        <div class="mt-1 flex flex-wrap gap-3">
          <label v-for="n in counted" :key="n.of" class="text-[15px]"
            >{{ n.of }}{{ n.unit ? `, ${n.unit}` : '' }}
            <input
              class="field figure mt-1 block w-36!"
              type="number"
              min="0"
              step="any"
              :value="record.has?.[n.of] ?? ''"
              @input="has(n.of, ($event.target as HTMLInputElement).value)"
          /></label>
        </div>
        <p class="mt-1 text-sm text-slate">The plan holds these against what it needs.</p>
      </template>
    </section>
    <div class="space-y-3">
      <section class="sheet p-4">
        <h2 class="head">What is heard, seen, noticed</h2>
        <SymptomPicker v-model="record.symptoms" class="mt-2" />
        <label class="mt-3 block">
          <span class="head">Symptoms and notes</span>
          <textarea
            v-model="record.notes"
            class="field mt-1"
            rows="3"
            maxlength="10000"
            placeholder="sounds, lights, smell, what the owner did last"
          />
        </label>
        <RecordLine class="mt-2" :problem="problem()" :waits="waits" />
        <p
          v-if="job.gate && station.state !== 'MOSS'"
          class="mt-2 text-[15px]"
          :class="[gate.tone, refused ? 'font-bold' : '']"
          :role="refused ? 'alert' : undefined"
        >
          {{ refused ? `▲ It is not done yet. ${job.gate}` : gate.text }}
        </p>
        <div class="mt-3 flex flex-wrap gap-3">
          <button v-if="station.state !== 'MOSS'" type="button" class="next" @click="finish">
            Intake is done
          </button>
          <button v-else type="button" class="plain" @click="save.mutate(false)">Open again</button>
        </div>
      </section>
      <section class="sheet p-4">
        <h2 class="head">The old medium</h2>
        <p class="mt-1">{{ job.medium }}</p>
        <label v-if="!job.rescuedId" class="mt-2 block">
          <span class="sr-only">Another one</span>
          <select
            class="field mt-1"
            :value="job.mediumId"
            @change="choose.mutate(Number(($event.target as HTMLSelectElement).value))"
          >
            <option :value="0" disabled>choose the medium</option>
            <option v-for="m in originals" :key="m.id" :value="m.id">
              {{ m.name }}, {{ m.size }}
            </option>
          </select>
        </label>
        <button v-if="!job.rescuedId" type="button" class="plain mt-2" @click="bringing = true">
          Bring in an image …
        </button>
        <p v-if="choose.isError.value" class="mt-2 text-brick" role="alert">
          ✕ {{ sentence(choose.error.value) }}
        </p>
      </section>
      <SpeedsSheet v-if="job.mediumId" :job="job.id" :after="false" />
    </div>
    <BenchCard
      v-if="bench && steps.length"
      title="Inspection"
      :steps="steps"
      :tick="tick"
      :waits="waits"
      @changed="save.mutate(false)"
      @close="bench = false"
    />
    <Pictures
      v-if="picturing"
      :job="job.id"
      :place="picturing"
      :title="
        picturing === 'map'
          ? 'Fastener map'
          : `Pictures of point ${Number(picturing.split(':')[1]) + 1}`
      "
      @close="picturing = ''"
    />
    <BringIn v-if="bringing" @close="bringing = false" @brought="(id) => choose.mutate(id)" />
  </div>
</template>
