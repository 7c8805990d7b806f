<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  api,
  ask,
  sentence,
  type Job,
  type Plan,
  type PlanChoice,
  type Station,
} from '../../api/client'
import { staleJob } from '../../api/live'
import ChainLine from '../../parts/ChainLine.vue'
import Why from '../../because/Why.vue'
import { useBecause } from '../../because/because'
import { count, inUnit, unitSize, useUnit } from '../../shed/units'
import Sounding from '../../sounding/Sounding.vue'
import { START } from '../shared/start'
import CarrierFiles from './CarrierFiles.vue'
import ChoicesPanel from './ChoicesPanel.vue'
import DriversCard from './DriversCard.vue'
import MachineSheet from './MachineSheet.vue'
import { othersOn, useCards } from '../../parts/cards'
import NewCard from '../../parts/NewCard.vue'
import { planDraft } from '../../parts/planDraft'
import StartTrials from './StartTrials.vue'
import VolumeCard from './VolumeCard.vue'

const props = defineProps<{ job: Job; station: Station }>()
const queries = useQueryClient()
const unit = useUnit()
const because = useBecause()
const choice = ref<PlanChoice | null>(null)
const plan = shallowRef<Plan | null>(null)
const trouble = ref('')
const choosing = ref(false)
const undo: PlanChoice[] = []
const undoable = ref(0)

const asked = useQuery({
  queryKey: computed(() => ['plan', props.job.id]),
  queryFn: () => ask(api.GET('/api/jobs/{id}/plan', { params: { path: { id: props.job.id } } })),
})
const { cards, none } = useCards()
/** What another job has put on the chosen card. */
const taken = computed(() => {
  const card = cards.value.find((m) => m.id === choice.value?.cardId)
  return card ? othersOn(card, props.job.id) : ''
})
const adding = ref(false)
/** A plan is made for a card: where there is none, the way to one stands here. */
const noCard = computed(() => asked.isError.value && none.value)
watch(none, (still) => {
  if (!still && asked.isError.value) void asked.refetch()
})
const draft = planDraft(props.job.id)
const fromDraft = ref(false)
/** Back to what was settled, or to the proposal. */
function dropDraft(): void {
  const first = undo[0]
  undo.length = 0
  undoable.value = 0
  draft.value = null
  fromDraft.value = false
  if (first) choice.value = first
  void preview()
}

let latest = 0
const preview = useDebounceFn(async () => {
  if (!choice.value) return
  const mine = ++latest
  try {
    const answer = await ask(
      api.POST('/api/jobs/{id}/plan/preview', {
        params: { path: { id: props.job.id } },
        body: choice.value,
      }),
    )
    if (mine !== latest) return
    plan.value = answer
    trouble.value = ''
  } catch (e) {
    trouble.value = sentence(e)
  }
}, 30)

// After what it calls: with an answer at hand and a layout that was moved it runs at once.
watch(
  () => asked.data.value,
  (a) => {
    // What is being moved here is not overwritten by what comes from elsewhere.
    if (!a || undo.length || fromDraft.value) return
    choice.value = JSON.parse(JSON.stringify(a.choice))
    plan.value = a.plan
    if (!draft.value || JSON.stringify(draft.value) === JSON.stringify(a.choice)) return
    undo.push(JSON.parse(JSON.stringify(a.choice)))
    undoable.value = undo.length
    choice.value = JSON.parse(JSON.stringify(draft.value))
    fromDraft.value = true
    void preview()
  },
  { immediate: true, flush: 'post' },
)

/** Changes the choice, keeping the one before for undo; the core answers. */
function change(how: (c: PlanChoice) => void): void {
  if (!choice.value) return
  undo.push(JSON.parse(JSON.stringify(choice.value)))
  undoable.value = undo.length
  how(choice.value)
  draft.value = JSON.parse(JSON.stringify(choice.value))
  void preview()
}

function back(): void {
  const before = undo.pop()
  undoable.value = undo.length
  if (before) choice.value = before
  draft.value = undo.length && choice.value ? JSON.parse(JSON.stringify(choice.value)) : null
  if (!undo.length) fromDraft.value = false
  void preview()
}

/** The layout as wishes, so that one of them can be changed; a cluster size that was chosen stays. */
function wishes(): PlanChoice['volumes'] {
  const volumes = plan.value?.volumes ?? []
  const said = choice.value?.volumes ?? []
  const same = said.length === volumes.length
  return volumes.map((v, i) => ({
    label: v.label,
    end: v.start + v.length,
    clusterBytes: same ? said[i].clusterBytes : 0,
    source: v.source,
  }))
}

/** The layout as it stands, with one thing changed. */
function relay(how: (all: PlanChoice['volumes']) => void): void {
  const all = wishes()
  change((c) => {
    how(all)
    c.volumes = all
  })
}

/** Half of the last volume becomes a volume of its own; among slots one more stands before it. */
function add(): void {
  const last = plan.value?.volumes.at(-1)
  if (!last) return
  relay((all) => {
    const fresh = { label: `SPARE${all.length}`, end: 0, clusterBytes: 0, source: -1 }
    if (plan.value?.family === 'slots') {
      all.splice(all.length - 1, 0, { ...fresh, label: `SLOT${all.length - 1}` })
      return
    }
    all[all.length - 1].end = last.start + Math.floor(last.length / 2)
    all.push({ ...fresh, end: last.start + last.length })
  })
}

let lastMove = 0
function move(index: number, end: number): void {
  // A drag is one step of undo, however many places it passes.
  const now = performance.now()
  const same = now - lastMove < 600
  lastMove = now
  const how = (c: PlanChoice) => {
    const all = wishes()
    all[index].end = Math.max(all[index].source >= 0 ? 2048 : 1024, end)
    for (let i = index + 1; i < all.length; i++) if (all[i].end <= end) all[i].end = 0
    c.volumes = all
  }
  if (same && undo.length && choice.value) {
    how(choice.value)
    draft.value = JSON.parse(JSON.stringify(choice.value))
    void preview()
  } else change(how)
}

const settle = useMutation({
  mutationFn: () =>
    ask(
      api.PUT('/api/jobs/{id}/plan', {
        params: { path: { id: props.job.id } },
        body: {
          version: props.job.version,
          choice: choice.value as PlanChoice,
          allTheSame: allTheSame.value,
        },
      }),
    ),
  onSuccess: () => {
    undo.length = 0
    undoable.value = 0
    draft.value = null
    fromDraft.value = false
  },
  onSettled: () => staleJob(queries, props.job.id),
})
/** The survey stopped; whoever goes on says so. */
const surveyStopped = computed(() => props.job.stations[3].state === 'BRICK')
const allTheSame = ref(false)
const typing = ref(false)
/** Why the plan cannot be settled now; "" when it can. */
const waits = computed(() => {
  const fromImage = ['MEDIUM', 'IMAGE'].includes(props.job.startsFrom)
  if (fromImage && !props.job.rescuedId)
    return 'It waits for the rescue: the files that go in are not here yet.'
  const stop = plan.value?.verdicts.find((v) => v.weight === 'STOPS')
  if (plan.value && !plan.value.buildable) return stop ? stop.text : 'It cannot be built.'
  if (props.job.startsFrom === 'FILES' && plan.value?.volumes.every((v) => v.source < 0))
    return 'It waits for the files: bring them at Rescue.'
  if (surveyStopped.value && !allTheSame.value) return 'The survey stopped: say that you go on.'
  return ''
})
const settled = computed(() => props.station.state === 'MOSS' && !undoable.value)
const survey = useQuery({
  queryKey: computed(() => ['survey', props.job.rescuedId]),
  queryFn: () =>
    ask(api.GET('/api/images/{id}/survey', { params: { path: { id: props.job.rescuedId } } })),
  enabled: computed(() => props.job.rescuedId > 0),
})
const kib = unitSize
const strata = computed(() =>
  (plan.value?.volumes ?? []).map((v) => {
    const end = v.start + v.length
    const place = (s: number) => inUnit(s, 'C/H/S', plan.value!.geometry)
    const waste = v.slack.find((x) => x.chosen)
    return {
      ...v,
      end,
      facts: v.files.length
        ? [
            `${v.kind}, ${kib(v.clusterBytes)}`,
            ...v.files.slice(0, 6).map((f) => `${f.name} · ${inUnit(f.bytes / 512, 'MiB')}`),
            ...(v.files.length > 6 ? [`and ${v.files.length - 6} more`] : []),
          ]
        : [
            `${v.letter} ${v.label} · ${v.kind}, ${kib(v.clusterBytes)}`,
            `${count(v.start)} to ${count(end - 1)}`,
            // Without heads there are no cylinders to speak of.
            ...(plan.value!.geometry.heads > 1 ? [`${place(v.start)} to ${place(end - 1)}`] : []),
            waste && v.source >= 0
              ? `files waste ${kib(waste.wasteBytes)}`
              : `${count(v.clusters)} ${v.unit}s, empty`,
          ],
    }
  }),
)
/** The old medium beside the card, with a ribbon from each old volume to where its files go. */
const old = computed(() => {
  const s = survey.data.value
  if (!s || !plan.value) return undefined
  const volumes = s.volumes.filter((v) => v.length > 0)
  return {
    total: s.sectors,
    strata: volumes.map((v) => ({
      letter: v.letter,
      label: v.label,
      start: v.start,
      end: v.start + v.length,
    })),
    ribbons: plan.value.volumes.flatMap((v, to) => {
      const file = v.files[0]
      if (file && volumes.length)
        return [{ from: 0, to, lines: ['the whole drive', `is ${file.name}`] }]
      const from = volumes.findIndex((x) => x.number === v.source)
      if (from < 0) return []
      const o = volumes[from]
      const grows = v.length - o.length
      return [
        {
          from,
          to,
          lines: [
            plan.value!.strategy === 'CLONE' ? 'every sector' : `${count(o.files)} files over`,
            ...(o.notWhole ? [`▲ ${count(o.notWhole)} not whole`] : []),
            grows === 0 ? 'same size' : `${grows > 0 ? '+' : '−'}${inUnit(Math.abs(grows), 'MiB')}`,
          ],
        },
      ]
    }),
  }
})
const total = computed(() => {
  const p = plan.value
  return p ? Math.max(p.reach + p.outOfReach, p.imageSectors) : 0
})
const MARKS: Record<string, { mark: string; tone: string }> = {
  STOPS: { mark: '✕', tone: 'text-brick' },
  WARNS: { mark: '▲', tone: 'text-lamp' },
  HOLDS: { mark: '✓', tone: 'text-moss' },
}
</script>

<template>
  <section v-if="noCard" class="sheet p-8">
    <h2 class="text-lg font-bold">Which card is it for?</h2>
    <p class="mt-1 max-w-prose">
      A plan fits the image to the card that goes into the machine, and there is no card in the shed
      yet. The card’s name, its serial and the size that is printed on it are enough.
    </p>
    <button type="button" class="next mt-4" @click="adding = true">Add a card</button>
    <NewCard v-if="adding" @close="adding = false" />
  </section>
  <p v-else-if="asked.isError.value" class="sheet p-6 text-brick" role="alert">
    ✕ {{ sentence(asked.error.value) }}
  </p>
  <p v-else-if="!plan || !choice" class="sheet p-6 text-slate">Reckoning …</p>
  <div
    v-else
    class="grid min-h-0 grid-cols-[minmax(0,1fr)] gap-3 lg:grid-rows-[minmax(0,1fr)]"
    :class="because.sum ? 'lg:grid-cols-[1fr_250px]' : 'lg:grid-cols-[1fr_370px]'"
  >
    <div class="flex min-h-0 min-w-0 flex-col gap-3">
      <Sounding
        class="grow"
        :title="old ? 'From the old drive to the card' : 'Sounding of the card'"
        straight
        :old="old"
        :note="plan.card.name + (plan.card.measured ? ', measured' : ', by label')"
        :total="total"
        :strata="strata"
        :pegs="plan.pegs"
        :binding="plan.binding"
        :reach="plan.reach"
        :geometry="plan.geometry"
        :movable="plan.strategy !== 'CLONE' && plan.family !== 'slots'"
        @move="move"
      />
    </div>
    <section class="sheet flex min-h-0 flex-col p-4" aria-label="What fits">
      <div class="flex items-baseline justify-between">
        <h2 class="head">What fits</h2>
        <button
          type="button"
          class="text-sm text-river underline"
          :aria-expanded="choosing"
          @click="choosing = !choosing"
        >
          {{ choosing ? 'back to the answer' : 'change the choices' }}
        </button>
      </div>
      <ChoicesPanel v-if="choosing" :choice="choice" :plan="plan" @change="change" />
      <template v-else>
        <p class="figure mt-1 text-4xl font-bold">
          <Why :sum="plan.reachBecause" :text="inUnit(plan.reach, unit.unit, plan.geometry)" />
        </p>
        <p class="text-[15px] text-slate">
          reachable;
          <Why
            :sum="plan.outOfReachBecause"
            :text="inUnit(plan.outOfReach, unit.unit === 'C/H/S' ? 'sectors' : unit.unit)"
          />
          of the card out of reach.
        </p>
        <ChainLine class="mt-1" :job="job.id" :card="choice?.cardId" />
        <p v-if="taken" class="mt-1 text-sm">
          <span class="text-lamp">▲</span> {{ plan.card.name }} holds {{ taken }}; writing replaces
          that.
        </p>
        <div class="mt-2 min-h-0 space-y-2 overflow-y-auto">
          <CarrierFiles
            v-if="plan.family === 'carrier'"
            :plan="plan"
            :choice="choice"
            @change="change"
          />
          <DriversCard :job="job.id" :plan="plan" @change="change" />
          <VolumeCard
            v-for="(v, i) in plan.volumes"
            :key="v.letter"
            :volume="v"
            :geometry="plan.geometry"
            :editable="plan.strategy !== 'CLONE'"
            :only="plan.volumes.length === 1"
            @rename="(label) => relay((all) => (all[i].label = label))"
            @remove="relay((all) => all.splice(i, 1))"
            @cluster="(bytes) => relay((all) => (all[i].clusterBytes = bytes))"
          />
          <button
            v-if="
              plan.strategy === 'REBUILD' &&
              plan.volumes.length &&
              plan.volumes.length < plan.mostVolumes
            "
            type="button"
            class="text-sm text-river underline"
            @click="add"
          >
            {{ plan.family === 'slots' ? 'one slot more' : 'split the last volume in two' }}
          </button>
          <p v-if="plan.family !== 'carrier'" class="border-t border-rule pt-2 text-[15px]">
            {{ START[plan.start.kind].mark }} {{ plan.start.sentence }}
          </p>
          <StartTrials
            v-if="job.rescuedId && plan.family !== 'carrier'"
            :job="job.id"
            :choice="choice"
            @change="change"
          />
          <ul class="space-y-1 text-[15px]">
            <li v-for="(v, i) in plan.verdicts" :key="i" class="flex gap-2">
              <span class="shrink-0 font-bold" :class="MARKS[v.weight].tone">{{
                MARKS[v.weight].mark
              }}</span>
              <Why :sum="v.because" :text="v.text" />
            </li>
          </ul>
          <div v-if="plan.steps.length === 1" class="text-[15px] text-plum">
            ◆ {{ plan.steps[0].text }}
            <span class="figure block font-bold">{{
              plan.steps[0].value || plan.steps[0].answers
            }}</span>
          </div>
          <button
            v-else-if="plan.steps.length"
            type="button"
            class="text-left text-[15px] text-river underline"
            @click="typing = true"
          >
            ◆ Typed on the machine: {{ plan.steps.length }} steps
          </button>
          <p v-for="l in plan.lifts" :key="l.what" class="text-sm text-slate">
            {{ l.what }} would reach
            <span class="figure">{{
              inUnit(l.reach, unit.unit === 'C/H/S' ? 'sectors' : unit.unit)
            }}</span>
          </p>
        </div>
      </template>
      <p v-if="trouble || settle.isError.value" class="mt-2 text-brick" role="alert">
        ✕ {{ trouble || sentence(settle.error.value) }}
      </p>
      <label v-if="surveyStopped && !settled" class="mt-2 flex gap-2 border-l-4 border-brick pl-3">
        <input v-model="allTheSame" type="checkbox" class="mt-1 h-5 w-5 shrink-0" />
        <span
          ><strong class="text-brick">✕ {{ job.stations[3].sentence }}</strong> Go on all the
          same.</span
        >
      </label>
      <p v-if="fromDraft" class="mt-2 text-sm text-river">
        A layout that was not settled is here again.
        <button type="button" class="underline" @click="dropDraft">Drop it</button>
      </p>
      <div class="mt-auto flex flex-wrap items-center gap-3 pt-3">
        <RouterLink v-if="settled && job.madeBy" class="next" :to="`/jobs/${job.id}/8`"
          >Fit the cards</RouterLink
        >
        <RouterLink v-else-if="settled" class="next" :to="`/jobs/${job.id}/6`"
          >Build this image</RouterLink
        >
        <button
          v-else
          type="button"
          class="next"
          :disabled="waits !== '' || settle.isPending.value"
          @click="settle.mutate()"
        >
          Settle this plan
        </button>
        <button v-if="undoable" type="button" class="plain" @click="back">Undo</button>
        <span v-if="!settled && waits" class="basis-full text-sm text-slate">{{ waits }}</span>
      </div>
    </section>
    <MachineSheet
      v-if="typing"
      :machine="job.machine"
      :card="plan.card.name"
      :steps="plan.steps"
      @close="typing = false"
    />
  </div>
</template>
