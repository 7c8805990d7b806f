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
import Why from '../../because/Why.vue'
import { useBecause } from '../../because/because'
import { inUnit, useUnit } from '../../shed/units'
import Sounding from '../../sounding/Sounding.vue'
import ChoicesPanel from './ChoicesPanel.vue'
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
watch(
  () => asked.data.value,
  (a) => {
    // What is being moved here is not overwritten by what comes from elsewhere.
    if (!a || undo.length) return
    choice.value = JSON.parse(JSON.stringify(a.choice))
    plan.value = a.plan
  },
  { immediate: true },
)

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

/** Changes the choice, keeping the one before for undo; the core answers. */
function change(how: (c: PlanChoice) => void): void {
  if (!choice.value) return
  undo.push(JSON.parse(JSON.stringify(choice.value)))
  undoable.value = undo.length
  how(choice.value)
  void preview()
}

function back(): void {
  const before = undo.pop()
  undoable.value = undo.length
  if (before) choice.value = before
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

/** Half of the last volume becomes a volume of its own. */
function add(): void {
  const last = plan.value?.volumes.at(-1)
  if (!last) return
  relay((all) => {
    all[all.length - 1].end = last.start + Math.floor(last.length / 2)
    all.push({
      label: `SPARE${all.length}`,
      end: last.start + last.length,
      clusterBytes: 0,
      source: -1,
    })
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
    void preview()
  } else change(how)
}

const settle = useMutation({
  mutationFn: () =>
    ask(
      api.PUT('/api/jobs/{id}/plan', {
        params: { path: { id: props.job.id } },
        body: { version: props.job.version, choice: choice.value as PlanChoice },
      }),
    ),
  onSuccess: () => {
    undo.length = 0
    undoable.value = 0
  },
  onSettled: () => queries.invalidateQueries(),
})
const settled = computed(() => props.station.state === 'MOSS' && !undoable.value)
const strata = computed(() =>
  (plan.value?.volumes ?? []).map((v) => ({ ...v, end: v.start + v.length })),
)
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
  <p v-if="asked.isError.value" class="sheet p-6 text-brick" role="alert">
    ✕ {{ sentence(asked.error.value) }}
  </p>
  <p v-else-if="!plan || !choice" class="sheet p-6 text-slate">Reckoning …</p>
  <div
    v-else
    class="grid min-h-0 gap-3 lg:grid-rows-[minmax(0,1fr)]"
    :class="because.sum ? 'lg:grid-cols-[1fr_250px]' : 'lg:grid-cols-[1fr_370px]'"
  >
    <div class="flex min-h-0 min-w-0 flex-col gap-3">
      <Sounding
        class="grow"
        title="Sounding of the card"
        :note="plan.card.name + (plan.card.measured ? ', measured' : ', by its label')"
        :total="total"
        :strata="strata"
        :pegs="plan.pegs"
        :binding="plan.binding"
        :reach="plan.reach"
        :geometry="plan.geometry"
        :movable="plan.strategy !== 'CLONE'"
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
        <div class="mt-2 min-h-0 space-y-2 overflow-y-auto">
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
            v-if="plan.strategy === 'REBUILD' && plan.volumes.length"
            type="button"
            class="text-sm text-river underline"
            @click="add"
          >
            add a volume in the last one
          </button>
          <ul class="space-y-1 border-t border-rule pt-2 text-[15px]">
            <li v-for="(v, i) in plan.verdicts" :key="i" class="flex gap-2">
              <span class="shrink-0 font-bold" :class="MARKS[v.weight].tone">{{
                MARKS[v.weight].mark
              }}</span>
              <Why :sum="v.because" :text="v.text" />
            </li>
          </ul>
          <div v-for="s in plan.steps" :key="s.text" class="text-[15px] text-plum">
            ◆ {{ s.text }}<span v-if="s.value" class="figure block font-bold">{{ s.value }}</span>
          </div>
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
      <div class="mt-auto flex flex-wrap items-center gap-3 pt-3">
        <RouterLink v-if="settled" class="next" :to="`/jobs/${job.id}/6`"
          >Build this image</RouterLink
        >
        <button
          v-else
          type="button"
          class="next"
          :disabled="!plan.buildable || settle.isPending.value || !job.rescuedId"
          @click="settle.mutate()"
        >
          Settle this plan
        </button>
        <button v-if="undoable" type="button" class="plain" @click="back">Undo</button>
        <span v-if="!job.rescuedId" class="text-sm text-slate">waits for the rescue</span>
      </div>
    </section>
  </div>
</template>
