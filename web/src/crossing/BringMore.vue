<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, reactive, watch } from 'vue'
import { api, ask, type Errand, type Schemas } from '../api/client'
import type { FromDesktop } from '../parts/dropped'
import ErrandLine from '../parts/ErrandLine.vue'
import FileChooser from '../parts/FileChooser.vue'
import ImageChoice from '../parts/ImageChoice.vue'
import SendingLine from '../parts/SendingLine.vue'
import type { Sent } from '../parts/useSending'
import Dialog from '../shed/Dialog.vue'

/** Where files come from: this computer, or an image of the shelf. */
defineProps<{ sent: Sent; share: number; sending: boolean; errand: Errand | null; wrong: string }>()
const emit = defineEmits<{
  close: []
  halt: []
  stop: []
  chosen: [files: FromDesktop[]]
  image: [from: Schemas['FromImage']]
}>()
const BRINGS = {
  FILES: 'the files of a volume',
  WHOLE: 'the image itself, as one file',
  DISKS: 'each disk of it, as a file',
} as const
const from = reactive({
  image: 0,
  in: '',
  brings: 'FILES' as Schemas['FromImage']['brings'],
  volume: 0,
  folder: '',
})
/** What is on the image, or on a drive that lies on it as a file. */
function useSurvey(within: () => string) {
  return useQuery({
    queryKey: computed(() => ['survey', from.image, within()]),
    queryFn: () =>
      ask(
        api.GET('/api/images/{id}/survey', {
          params: { path: { id: from.image }, query: { in: within() } },
        }),
      ),
    enabled: computed(() => from.image > 0),
  })
}
const whole = useSurvey(() => '')
const survey = useSurvey(() => from.in)
const volumes = computed(() => survey.data.value?.volumes.filter((v) => v.readable) ?? [])
watch(volumes, (v) => (from.volume = v[0]?.number ?? 0))
/** Files of a carrier that are drives themselves: those in the root of its first volume. */
const first = computed(() => whole.data.value?.volumes.find((v) => v.readable)?.number ?? -1)
const carrier = useQuery({
  queryKey: computed(() => ['drives', from.image, first.value]),
  queryFn: async () => {
    const query = { volume: first.value, folder: '', order: 'NAME' as const }
    const params = { path: { id: from.image }, query }
    const files = await ask(api.GET('/api/images/{id}/files', { params }))
    return files.rows.filter((r) => r.drive).map((r) => `${first.value}/${r.path}`)
  },
  enabled: computed(() => first.value >= 0),
})
const drives = computed(() => carrier.data.value ?? [])
watch(
  () => from.image,
  () => (from.in = ''),
)
/** Disks of a library can be told apart as soon as its survey came. */
const ways = computed(() =>
  (Object.keys(BRINGS) as (keyof typeof BRINGS)[]).filter(
    (b) => b !== 'DISKS' || whole.data.value?.scheme === 'library',
  ),
)
watch(ways, (w) => {
  if (!w.includes(from.brings)) from.brings = 'FILES'
})
</script>

<template>
  <Dialog title="Bring more" @close="emit('close')">
    <h3 class="head">From this computer</h3>
    <p class="text-slate">You can also drop files and folders anywhere on the crossing.</p>
    <SendingLine v-if="sending" :sent="sent" :share="share" @halt="emit('halt')" />
    <FileChooser v-else class="mt-2" @chosen="emit('chosen', $event)" />
    <h3 class="head mt-5">From an image of the shelf</h3>
    <form class="mt-1 space-y-2" @submit.prevent="emit('image', { ...from })">
      <ImageChoice v-model="from.image" none="no image" label="Image" />
      <template v-if="from.image">
        <label class="block"
          ><span class="text-sm">what of it</span>
          <select v-model="from.brings" class="field">
            <option v-for="b in ways" :key="b" :value="b">{{ BRINGS[b] }}</option>
          </select></label
        >
        <template v-if="from.brings === 'FILES'">
          <label v-if="drives.length" class="block"
            ><span class="text-sm">of which drive</span>
            <select v-model="from.in" class="field">
              <option value="">the card itself</option>
              <option v-for="d in drives" :key="d" :value="d">
                {{ d.slice(d.indexOf('/') + 1) }}
              </option>
            </select></label
          >
          <label v-if="volumes.length" class="block"
            ><span class="text-sm">volume</span>
            <select v-model.number="from.volume" class="field">
              <option v-for="v in volumes" :key="v.number" :value="v.number">
                {{ v.letter || v.number }} {{ v.label || v.kind }}
              </option>
            </select></label
          >
          <p v-else-if="survey.data.value" class="text-brick">
            ✕ No volume of it can be read as files.
          </p>
          <label class="block"
            ><span class="text-sm">only this folder, “” for all</span>
            <input v-model.trim="from.folder" class="field figure" maxlength="1000"
          /></label>
        </template>
        <ErrandLine v-if="errand" :errand="errand" title="Bringing files" @stop="emit('stop')" />
        <button v-else class="plain" :disabled="from.brings === 'FILES' && !volumes.length">
          Bring {{ from.brings === 'WHOLE' ? 'it' : 'them' }}
        </button>
      </template>
    </form>
    <p v-if="wrong" class="mt-3 text-brick" role="alert">✕ {{ wrong }}</p>
  </Dialog>
</template>
