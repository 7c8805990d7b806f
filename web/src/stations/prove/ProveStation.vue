<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, type Job, type Station } from '../../api/client'
import Why from '../../because/Why.vue'
import RehearsalPanel from '../../parts/RehearsalPanel.vue'
import { count } from '../../shed/units'
import ChainList from '../../parts/ChainList.vue'
import FindingList from '../shared/FindingList.vue'
import { START } from '../shared/start'
import CheckList from '../shared/CheckList.vue'
import { useRecord } from '../shared/useRecord'

const props = defineProps<{ job: Job; station: Station }>()
const { record, dirty, save, tick, problem } = useRecord(
  () => props.job,
  () => props.station,
)
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const steps = computed(
  () => catalogue.data.value?.machines.find((m) => m.key === props.job.profile)?.prove ?? [],
)
const prediction = useQuery({
  queryKey: computed(() => ['prediction', props.job.id, props.job.cardId, props.job.builtId]),
  queryFn: () =>
    ask(api.GET('/api/jobs/{id}/prediction', { params: { path: { id: props.job.id } } })),
  enabled: computed(() => props.job.builtId > 0 || !!props.job.madeBy),
})
const p = computed(() => prediction.data.value)
</script>

<template>
  <section v-if="!job.builtId && !job.madeBy" class="sheet p-8">
    <h2 class="text-lg font-bold">Nothing is built yet that could be proved</h2>
    <RouterLink class="next mt-4 inline-block" :to="`/jobs/${job.id}/6`">To the build</RouterLink>
  </section>
  <div v-else class="grid gap-3 lg:grid-cols-[1fr_400px]">
    <div class="space-y-3">
      <section class="sheet p-4">
        <h2 class="head">What it did show</h2>
        <CheckList class="mt-1 text-[15px]" :steps="steps" :tick="tick" />
        <textarea
          v-model="record.notes"
          class="field mt-2"
          rows="2"
          maxlength="10000"
          placeholder="notes"
          aria-label="Notes"
        />
        <p class="mt-2 text-sm text-slate">
          A pass needs every point ticked, and what the machine showed where a reading is asked for.
        </p>
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
        <p v-if="problem()" class="mt-2 text-brick" role="alert">✕ {{ problem() }}</p>
        <button
          v-if="station.state !== 'MOSS' || dirty"
          type="button"
          class="next mt-3"
          @click="save.mutate(true)"
        >
          Settle the proof
        </button>
        <p v-else class="mt-2 text-moss">✓ {{ station.sentence }}</p>
      </section>
    </div>
    <div class="space-y-3">
      <section v-if="p" class="sheet p-4">
        <h2 class="head">The machine should show</h2>
        <p v-if="p.geometry && !p.drives.length" class="figure mt-1 text-plum">
          ◆ {{ p.geometry }}
        </p>
        <p v-if="p.shown" class="mt-1 text-plum">
          ◆ <Why :sum="p.shown.because" :text="p.shown.text" />
        </p>
        <p v-for="d in p.drives" :key="d.id" class="mt-1 text-plum">
          ◆ <strong class="figure">id {{ d.id }}</strong> a drive of
          <span class="figure">{{ d.size }}</span>
          <span class="block text-sm text-slate">from {{ d.file }} on the card</span>
        </p>
        <FindingList v-if="p.findings.length" class="mt-2" :findings="p.findings" />
        <p v-for="v in p.drives.length ? [] : p.volumes" :key="v.letter" class="mt-1 text-[15px]">
          <strong class="figure">{{ v.letter ? `${v.letter}: ` : '' }}{{ v.label }}</strong>
          <span class="figure block"
            >{{ count(v.files) }} files, <Why :sum="v.because" :text="v.free" /> free</span
          >
        </p>
      </section>
      <section v-if="p" class="sheet p-4">
        <h2 class="head">{{ p.boot.length ? 'Boot chain' : 'What starts' }} on {{ p.readFrom }}</h2>
        <p class="mt-1" :class="START[p.start.kind].tone">
          {{ START[p.start.kind].mark }} {{ p.start.sentence }}
        </p>
        <ChainList v-if="!job.builtId" class="mt-2" :links="p.boot" />
      </section>
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
