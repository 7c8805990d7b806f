<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, ask, sentence, type Job, type Station } from '../../api/client'
import { staleJob } from '../../api/live'
import CertificateLines from '../../parts/CertificateLines.vue'
import Downloads from '../../parts/Downloads.vue'
import RestoreDialog from '../../parts/RestoreDialog.vue'
import WipeDialog from '../../parts/WipeDialog.vue'
import WorkPanel from '../../parts/WorkPanel.vue'
import ArchiveOut from './ArchiveOut.vue'
import SheetsOut from './SheetsOut.vue'
import SinceWritten from './SinceWritten.vue'
import RecordLine from '../shared/RecordLine.vue'
import { useRecord } from '../shared/useRecord'

const props = defineProps<{ job: Job; station: Station }>()
const queries = useQueryClient()
const { record, save, problem, waits } = useRecord(
  () => props.job,
  () => props.station,
)
/** The read-back of the finished card, else what was built. */
const kept = computed(() => props.job.goldenId || props.job.builtId)
const image = useQuery({
  queryKey: computed(() => ['image', kept.value]),
  queryFn: () => ask(api.GET('/api/images/{id}', { params: { path: { id: kept.value } } })),
  enabled: computed(() => kept.value > 0),
})
const wiping = ref(false)
const another = ref(false)
/** The image stands for it from Build on; the dialog asks the shed whether it really does. */
const done = computed(
  () => props.job.mediumId > 0 && (props.job.closed || props.job.stations[5].state === 'MOSS'),
)
const certificates = useQuery({
  queryKey: ['certificates'],
  queryFn: () => ask(api.GET('/api/certificates')),
  enabled: done,
})
const certificate = computed(() =>
  certificates.data.value?.find((c) => c.mediumId === props.job.mediumId),
)
const cardId = ref(0)
watch(
  () => props.job.cardId,
  (card) => (cardId.value = cardId.value || card),
  { immediate: true },
)
const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
const old = computed(() => media.data.value?.find((m) => m.id === props.job.mediumId))
/** An image that was brought in, or a job that was, stands for a drive that is not here. */
const here = computed(() => {
  if (media.isPending.value) return false
  return old.value ? old.value.kind !== 'image brought in' : certificate.value !== undefined
})
const readable = computed(() =>
  (media.data.value ?? []).filter((m) => m.kind !== 'drive' && m.id !== props.job.mediumId),
)
const readBack = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/jobs/{id}/read-back', {
        params: { path: { id: props.job.id } },
        body: { mediumId: cardId.value },
      }),
    ),
  onSettled: () => staleJob(queries, props.job.id),
})
const onlyBackup = computed({
  get: () => record.choice === 'backup',
  set: (yes) => (record.choice = yes ? 'backup' : ''),
})
</script>

<template>
  <div class="grid gap-3 lg:grid-cols-2">
    <div class="space-y-3">
      <WorkPanel
        v-if="job.workId"
        :work-id="job.workId"
        title="Read the finished card back"
        paused="Go on reading"
      />
      <section class="sheet p-5">
        <h2 class="head">The golden copy</h2>
        <template v-if="image.data.value">
          <p class="figure mt-1 text-3xl font-bold">{{ image.data.value.size }}</p>
          <p>
            {{
              job.goldenId
                ? job.closed || !station.sentence
                  ? `“${image.data.value.name}”`
                  : `${station.state === 'BRICK' ? '✕' : '✓'} ${station.sentence}`
                : '· as it was built; the finished card was not read back yet'
            }}
          </p>
          <p class="mt-1 text-sm text-slate">SHA-256</p>
          <p class="figure text-sm break-all">{{ image.data.value.sha256 }}</p>
          <Downloads class="mt-3" :image="kept" />
          <button type="button" class="plain mt-3" @click="another = true">
            Write another card from it
          </button>
          <a
            v-if="!job.goldenId"
            class="mt-2 block text-river underline"
            :href="`/api/jobs/${job.id}/recipe`"
            >its recipe, as JSON</a
          >
        </template>
        <p v-else-if="station.state === 'BRICK'" class="mt-1 text-brick" role="alert">
          ✕ {{ station.sentence }}
        </p>
        <p v-else class="mt-1 text-slate">
          It lies here once the finished card was read back, or an image is built and proved.
        </p>
      </section>
      <SinceWritten v-if="job.goldenId && job.builtId" :job="job" />
      <SheetsOut :job="job" />
      <ArchiveOut :job="job" />
      <section v-if="!job.workId && !job.closed" class="sheet p-5">
        <h2 class="head">After the first start: read the finished card back</h2>
        <p class="mt-1 text-slate">
          Installers and the machine’s own tools finish a card; what it holds then is the copy that
          is worth keeping.
        </p>
        <div class="mt-2 flex gap-2">
          <select v-model="cardId" class="field min-w-0 grow" aria-label="The finished card">
            <option :value="0">which card, or image of it</option>
            <option v-for="m in readable" :key="m.id" :value="m.id">{{ m.name }}</option>
          </select>
          <button
            type="button"
            class="plain whitespace-nowrap"
            :disabled="!cardId"
            @click="readBack.mutate()"
          >
            Read it back
          </button>
        </div>
        <p v-if="readBack.isError.value" class="mt-2 text-brick" role="alert">
          ✕ {{ sentence(readBack.error.value) }}
        </p>
      </section>
    </div>
    <div class="space-y-3 self-start">
      <section class="sheet p-5">
        <label class="block">
          <span class="head">For whoever works on it in five years</span>
          <textarea
            v-model="record.notes"
            class="field mt-1"
            rows="6"
            maxlength="10000"
            placeholder="where the spare card lies, what to watch"
          />
        </label>
        <label v-if="job.rescuedId && !job.builtId" class="mt-3 flex gap-2">
          <input v-model="onlyBackup" type="checkbox" class="mt-1 h-5 w-5 shrink-0" />
          <span>
            Only a backup was wanted
            <span class="block text-sm text-slate"
              >the image of the old medium is the golden copy; no new card is made</span
            >
          </span>
        </label>
        <RecordLine class="mt-2" :problem="problem()" :waits="waits" />
        <button v-if="!job.closed" type="button" class="next mt-3" @click="save.mutate(true)">
          Close the job
        </button>
        <div v-else class="mt-3 flex items-center gap-3">
          <span class="text-moss"
            >✓ closed <span class="block text-[15px]">{{ station.sentence }}</span></span
          >
          <button type="button" class="plain" @click="save.mutate(false)">Open again</button>
        </div>
      </section>
      <section v-if="done && here" class="sheet p-5">
        <h2 class="head">The old medium: {{ job.medium }}</h2>
        <CertificateLines v-if="certificate" class="mt-1" :certificate="certificate" />
        <p v-else-if="old?.overwritten" class="mt-1 text-brick">
          ✕ It is overwritten in part: the wiping did not come to its end. Wipe it to the end.
        </p>
        <p v-else class="mt-1 text-slate">
          Keep it as long as the new card is young. When it goes, wipe it: deleting leaves all that
          was on it where it was.
        </p>
        <button type="button" class="plain mt-3" @click="wiping = true">
          {{ certificate ? 'Wipe it again' : 'Wipe it' }}
        </button>
      </section>
    </div>
    <RestoreDialog v-if="another" :image="kept" @close="another = false" />
    <WipeDialog
      v-if="wiping"
      :medium-id="job.mediumId"
      :name="job.medium"
      @close="wiping = false"
    />
  </div>
</template>
