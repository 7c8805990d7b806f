<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Job, type Station } from '../../api/client'
import Why from '../../because/Why.vue'
import { count } from '../../shed/units'
import { fails } from '../../parts/endings'
import Contents from '../../parts/Contents.vue'
import FindingList from '../shared/FindingList.vue'
import LostVolumes from './LostVolumes.vue'
import RehearsalPanel from '../../parts/RehearsalPanel.vue'
import { useRehearsal } from '../../parts/useRehearsal'
import RepairPanel from './RepairPanel.vue'

/** What is mended where no volume is meant. */
const THE_TABLE = -1
const props = defineProps<{ job: Job; station: Station }>()
const chosen = ref<number | null>(null)
const survey = useQuery({
  queryKey: computed(() => ['survey', props.job.rescuedId]),
  queryFn: () =>
    ask(api.GET('/api/images/{id}/survey', { params: { path: { id: props.job.rescuedId } } })),
  enabled: computed(() => props.job.rescuedId > 0),
})
const s = computed(() => survey.data.value)
const tally = computed(() => {
  const n = { STOPS: 0, WRONG: 0, NOTE: 0 }
  for (const f of s.value?.findings ?? []) n[f.weight]++
  return n
})
const notWhole = computed(() => s.value?.volumes.reduce((n, v) => n + v.notWhole, 0) ?? 0)
const rehearsal = useRehearsal(() => ({
  job: props.job.id,
  image: s.value ? props.job.rescuedId : 0,
  card: false,
}))
/** Under which heads and sectors a start can be mended: its own, and those of a card. */
const starts = computed(() => {
  const r = rehearsal.data.value
  if (!r?.run) return []
  const card = r.ifs.find((i) => i.kind === 'GEOMETRY' && fails(i.ending))
  return [
    ...(fails(r.run.ending) ? [{ title: 'Mend its start on a copy', note: '', on: r.shown }] : []),
    ...(card
      ? [
          {
            title: `Mend its start for ${card.shown.heads} × ${card.shown.sectors}`,
            note: 'As this firmware shows a card of its size; as it is it does not start under them.',
            on: card.shown,
          },
        ]
      : []),
  ]
})
const volume = computed(() => {
  const readable = s.value?.volumes.filter((v) => v.readable) ?? []
  return readable.find((v) => v.number === chosen.value) ?? readable[0]
})
</script>

<template>
  <section v-if="!job.rescuedId" class="sheet p-8">
    <h2 class="text-lg font-bold">Nothing is rescued yet</h2>
    <p class="mt-1">The survey reads the image, never the old medium again.</p>
    <RouterLink :to="`/jobs/${job.id}/3`" class="next mt-4 inline-block">To the rescue</RouterLink>
  </section>
  <p v-else-if="survey.isError.value" class="sheet p-6 text-brick" role="alert">
    ✕ {{ sentence(survey.error.value) }}
  </p>
  <p v-else-if="!s" class="sheet p-6 text-slate">Reading the image …</p>
  <div v-else class="grid gap-3 lg:grid-cols-[1fr_330px]">
    <div class="min-w-0 space-y-3">
      <section class="sheet p-4">
        <div class="flex flex-wrap items-baseline justify-between gap-2">
          <h2 class="head">On it: {{ s.scheme }}, {{ s.size }}</h2>
          <RouterLink
            v-if="station.state === 'MOSS' || station.state === 'BRICK'"
            :class="station.state === 'MOSS' ? 'next' : 'plain'"
            :to="`/jobs/${job.id}/5`"
            >{{
              station.state === 'MOSS' ? 'Lay out the new card' : 'To the plan all the same'
            }}</RouterLink
          >
        </div>
        <p class="mt-1 flex flex-wrap gap-x-5 font-bold" role="status">
          <span :class="tally.STOPS ? 'text-brick' : 'text-moss'">{{
            tally.STOPS ? `✕ ${tally.STOPS} stop` : '✓ nothing stops'
          }}</span>
          <span v-if="tally.WRONG" class="text-lamp">▲ {{ tally.WRONG }} wrong</span>
          <span v-if="tally.NOTE" class="text-slate">· {{ tally.NOTE }} to note</span>
          <span v-if="notWhole" class="text-brick"
            >▲ {{ count(notWhole) }} {{ notWhole === 1 ? 'file does' : 'files do' }} not come
            whole</span
          >
        </p>
        <div class="mt-2 space-y-2">
          <button
            v-for="v in s.volumes"
            :key="v.number"
            type="button"
            class="block w-full rounded border p-3 text-left"
            :class="v.number === volume?.number ? 'border-lamp bg-lampwash' : 'border-rule'"
            @click="chosen = v.number"
          >
            <span class="flex flex-wrap items-baseline justify-between gap-2">
              <strong class="figure"
                >{{ v.letter ? `${v.letter}: ` : '' }}{{ v.label || 'no label' }} · {{ v.kind }} ·
                {{ v.size }}</strong
              >
              <span class="text-sm" :class="v.active ? 'text-moss' : 'text-slate'">{{
                v.active ? '✓ active' : '– not active'
              }}</span>
            </span>
            <span class="block text-[15px]">
              <template v-if="v.readable">
                <span class="figure">{{ count(v.files) }}</span> files in
                <span class="figure">{{ count(v.folders) }}</span> folders,
                <span class="figure">{{ v.bytes }}</span>, {{ v.unit }}s of
                <span class="figure">{{ v.clusterSize }}</span>
              </template>
              <template v-else>not read as files; its sectors are kept</template>
            </span>
            <span v-if="v.systemFiles.length" class="block text-sm text-slate"
              >its system files: <span class="figure">{{ v.systemFiles.join(', ') }}</span></span
            >
          </button>
          <p v-if="volume" class="text-[15px]">
            Free:
            <Why :sum="volume.freeBecause" :text="volume.free"
              ><span class="figure">{{ volume.free }}</span></Why
            >
          </p>
        </div>
      </section>
      <section class="sheet p-4">
        <Contents
          :key="volume?.number"
          :image="job.rescuedId"
          :sectors="s.sectors"
          :volume="volume?.number"
        />
      </section>
    </div>
    <div class="space-y-3">
      <section class="sheet p-4">
        <h2 class="head">Findings</h2>
        <FindingList class="mt-1" :findings="s.findings" />
      </section>
      <LostVolumes v-if="!s.volumes.some((v) => v.readable)" :job="job" :image="job.rescuedId" />
      <RepairPanel
        v-if="s.scheme === 'RDB'"
        :job="job"
        :image="job.rescuedId"
        :volume="THE_TABLE"
      />
      <RepairPanel
        v-if="volume?.readable"
        :job="job"
        :image="job.rescuedId"
        :volume="volume.number"
      />
      <RepairPanel
        v-for="x in starts"
        :key="x.title"
        :job="job"
        :image="job.rescuedId"
        :title="x.title"
        :note="x.note"
        :start="{ heads: x.on.heads, sectors: x.on.sectors }"
      />
      <section v-if="s.geometry.length" class="sheet p-4">
        <h2 class="head">Heads and sectors, by source</h2>
        <p v-for="g in s.geometry" :key="g.source" class="mt-1 text-[15px]">
          <span class="figure font-bold">{{ g.heads }} × {{ g.sectors }}</span> {{ g.source }}
          <span class="figure block text-sm text-slate">{{ g.evidence }}</span>
        </p>
      </section>
    </div>
    <RehearsalPanel
      v-if="rehearsal.data.value?.links.length"
      class="lg:col-span-full"
      :job="job.id"
      :image="job.rescuedId"
    />
  </div>
</template>
