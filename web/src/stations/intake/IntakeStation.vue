<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Job, type Station } from '../../api/client'
import { useKeys } from '../../shed/keys'
import BringIn from '../../parts/BringIn.vue'
import BenchCard from '../shared/BenchCard.vue'
import CheckList from '../shared/CheckList.vue'
import { useRecord } from '../shared/useRecord'

const props = defineProps<{ job: Job; station: Station }>()
const { record, dirty, save, tick, problem } = useRecord(
  () => props.job,
  () => props.station,
)
const queries = useQueryClient()
const bench = ref(false)
const bringing = ref(false)
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
const steps = computed(
  () => catalogue.data.value?.machines.find((m) => m.key === props.job.profile)?.inspection ?? [],
)
const originals = computed(() => (media.data.value ?? []).filter((m) => m.kind !== 'card'))
const choose = useMutation({
  mutationFn: (mediumId: number) =>
    ask(
      api.PUT('/api/jobs/{id}/medium', {
        params: { path: { id: props.job.id } },
        body: { mediumId },
      }),
    ),
  onSettled: () => queries.invalidateQueries(),
})
useKeys([{ key: 'B', says: 'the list as a bench card', does: () => (bench.value = true) }])
</script>

<template>
  <div class="grid gap-3 lg:grid-cols-[1fr_360px]">
    <section class="sheet p-5">
      <div class="flex items-center justify-between">
        <h2 class="head">Look before power: {{ job.profileName }}</h2>
        <button type="button" class="plain" @click="bench = true">
          Bench card <span class="key">B</span>
        </button>
      </div>
      <CheckList :steps="steps" :tick="tick" class="mt-2" />
    </section>
    <div class="space-y-3">
      <section class="sheet p-5">
        <h2 class="head">The old medium</h2>
        <p class="mt-1">{{ job.medium }}</p>
        <label v-if="!job.rescuedId" class="mt-2 block">
          <span class="text-sm text-slate">Another one</span>
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
        <button v-if="!job.rescuedId" type="button" class="plain mt-3" @click="bringing = true">
          Bring in an image …
        </button>
        <p v-if="choose.isError.value" class="mt-2 text-brick" role="alert">
          ✕ {{ sentence(choose.error.value) }}
        </p>
      </section>
      <section class="sheet p-5">
        <label class="block">
          <span class="head">Symptoms and notes</span>
          <textarea
            v-model="record.notes"
            class="field mt-1"
            rows="5"
            maxlength="10000"
            placeholder="sounds, lights, smell, what the owner did last"
          />
        </label>
        <p v-if="problem()" class="mt-2 text-brick" role="alert">✕ {{ problem() }}</p>
        <div class="mt-3 flex flex-wrap gap-3">
          <button
            v-if="station.state !== 'MOSS'"
            type="button"
            class="next"
            @click="save.mutate(true)"
          >
            Intake is done
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
    </div>
    <BenchCard
      v-if="bench && steps.length"
      title="Inspection"
      :steps="steps"
      :tick="tick"
      @changed="save.mutate(false)"
      @close="bench = false"
    />
    <BringIn v-if="bringing" @close="bringing = false" @brought="(id) => choose.mutate(id)" />
  </div>
</template>
