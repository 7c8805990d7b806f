<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, sentence } from '../api/client'
import { count } from '../shed/units'
import Why from '../because/Why.vue'
import DiskRow from './DiskRow.vue'
import ErrandLine from './ErrandLine.vue'
import FindFile from './FindFile.vue'
import HexView from './HexView.vue'
import LayoutLine from './LayoutLine.vue'
import TextView from './TextView.vue'
import { useErrand } from './useErrand'

/** What is on an image: folders and files, what stands out, text, and every sector. */
const props = defineProps<{ image: number; sectors: number; volume?: number }>()
const emit = defineEmits<{ made: [image: number] }>()
const WAYS = ['Files', 'What stands out', 'Sectors', 'Disks'] as const
const way = ref<(typeof WAYS)[number]>('Files')
const find = ref('')
const folder = ref('')
const ORDERS = { DISK: 'as on disk', NAME: 'by name', SIZE: 'by size', TIME: 'by time' } as const
const order = ref<keyof typeof ORDERS>('DISK')
const shown = ref('')
/** The way down through files that are images of drives, each "volume/path". */
const inside = ref<string[]>([])
const within = computed(() => inside.value.join('|'))
const survey = useQuery({
  queryKey: computed(() => ['survey', props.image, within.value]),
  queryFn: () =>
    ask(
      api.GET('/api/images/{id}/survey', {
        params: { path: { id: props.image }, query: { in: within.value } },
      }),
    ),
})
const isLibrary = computed(() => survey.data.value?.scheme === 'library')
/** Of an image in an image only what its own volumes hold; of a library its disks first. */
const ways = computed(() => {
  const deep = inside.value.length > 0
  const some = WAYS.filter((w) => w === 'Files' || (w === 'Disks' ? isLibrary.value : !deep))
  return isLibrary.value ? ['Disks' as const, ...some.filter((w) => w !== 'Disks')] : some
})
watch(isLibrary, (row) => (way.value = row ? 'Disks' : 'Files'), { immediate: true })
const readable = computed(() => survey.data.value?.volumes.filter((v) => v.readable) ?? [])
const chosen = ref(0)
const volume = computed(
  () =>
    readable.value.find((v) => v.number === (chosen.value || props.volume))?.number ??
    readable.value[0]?.number,
)
/** Ways in which it may lie where nothing on it decides. */
const guesses = computed(() => readable.value.find((v) => v.number === volume.value)?.guesses ?? [])
const place = computed(() => ({
  params: {
    path: { id: props.image },
    query: {
      volume: volume.value ?? 0,
      find: find.value,
      folder: folder.value,
      order: order.value,
      in: within.value,
    },
  },
}))
watch(volume, () => (folder.value = ''))
/** Goes into a file that is an image, or back up to some step. */
function go(steps: string[]): void {
  inside.value = steps
  folder.value = find.value = shown.value = ''
  chosen.value = 0
  way.value = 'Files'
}
/** To a file that was found in another volume, or in an image that lies on this one. */
function seek(way: string, path: string): void {
  const letters = find.value
  if (way) go(way.split('|'))
  chosen.value = Number(path.slice(0, path.indexOf('/')))
  find.value = letters
}
/** The way down to the folder that is looked at, each step with its path. */
const steps = computed(() =>
  folder.value
    .split('/')
    .filter(Boolean)
    .map((name, i, all) => ({ name, path: all.slice(0, i + 1).join('/') })),
)
const files = useQuery({
  queryKey: computed(() => [
    'files',
    props.image,
    volume.value,
    find.value,
    folder.value,
    order.value,
    within.value,
  ]),
  queryFn: () => ask(api.GET('/api/images/{id}/files', place.value)),
  enabled: computed(() => volume.value !== undefined && way.value === 'Files'),
})
const notable = useQuery({
  queryKey: computed(() => ['notable', props.image, volume.value]),
  queryFn: () => ask(api.GET('/api/images/{id}/notable', place.value)),
  enabled: computed(() => volume.value !== undefined && way.value === 'What stands out'),
})
const { errand, run, stop } = useErrand()
const twins = useQuery({
  queryKey: computed(() => ['twins', props.image, volume.value]),
  queryFn: async () => {
    const at = { params: { path: { id: props.image }, query: { volume: volume.value ?? 0 } } }
    await run(ask(api.POST('/api/images/{id}/twins', at)))
    return ask(api.GET('/api/images/{id}/twins', at))
  },
  retry: false,
  enabled: computed(() => volume.value !== undefined && way.value === 'What stands out'),
})
const lists = computed(() => [
  { title: 'Largest', rows: notable.data.value?.largest ?? [], size: true },
  { title: 'Newest', rows: notable.data.value?.newest ?? [], size: false },
  { title: 'Oldest', rows: notable.data.value?.oldest ?? [], size: false },
])
/** Files that come go onto a copy; what cannot be laid down anew is refused in a sentence. */
const router = useRouter()
const cross = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/crossings', {
        body: { image: props.image, volume: volume.value ?? 0, disk: '' },
      }),
    ),
  onSuccess: (c) => router.push(`/crossings/${c.id}`),
})
const deep = computed(() => (within.value ? `&in=${encodeURIComponent(within.value)}` : ''))
const get = (path: string) =>
  `/api/images/${props.image}/file?volume=${volume.value}&path=${encodeURIComponent(path)}${deep.value}`
const zip = (path: string, words = '') =>
  `/api/images/${props.image}/zip?volume=${volume.value}&folder=${encodeURIComponent(path)}` +
  (words ? `&find=${encodeURIComponent(words)}` : '') +
  deep.value
const isPicture = (path: string) => /\.(bmp|gif|jpe?g|png)$/i.test(path)
</script>

<template>
  <div>
    <div class="flex flex-wrap items-center gap-2">
      <button
        v-for="w in ways"
        :key="w"
        type="button"
        class="plain"
        :class="way === w ? 'border-2 border-ink! font-bold' : ''"
        :aria-pressed="way === w"
        @click="way = w"
      >
        {{ w }}
      </button>
      <select
        v-if="readable.length > 1 && way !== 'Disks'"
        class="field w-auto!"
        aria-label="Volume"
        :value="volume"
        @change="chosen = Number(($event.target as HTMLSelectElement).value)"
      >
        <option v-for="v in readable" :key="v.number" :value="v.number">
          {{ v.letter || v.number }} {{ v.label || v.kind }}
        </option>
      </select>
      <span class="grow" />
      <template v-if="way === 'Files' && volume !== undefined">
        <button
          v-if="!inside.length"
          type="button"
          class="plain"
          :disabled="cross.isPending.value"
          @click="cross.mutate()"
        >
          Bring files onto it
        </button>
        <a v-if="files.data.value?.total" class="plain" :href="zip(folder, find)">{{
          find ? 'These as zip' : folder ? 'This folder as zip' : 'All as zip'
        }}</a>
        <select v-model="order" class="field w-auto!" aria-label="Order">
          <option v-for="(words, key) in ORDERS" :key="key" :value="key">{{ words }}</option>
        </select>
        <input
          v-model="find"
          class="field w-56!"
          placeholder="part of a name"
          aria-label="Find a file"
        />
      </template>
    </div>
    <p v-if="inside.length" class="figure mt-2 text-[15px]" aria-label="Image in image">
      <button type="button" class="text-river underline" @click="go([])">the image</button>
      <template v-for="(x, i) in inside" :key="x">
        ▸
        <strong v-if="i === inside.length - 1">{{ x }}</strong>
        <button
          v-else
          type="button"
          class="text-river underline"
          @click="go(inside.slice(0, i + 1))"
        >
          {{ x }}
        </button>
      </template>
    </p>
    <p v-if="survey.isError.value || cross.isError.value" class="mt-2 text-brick" role="alert">
      ✕ {{ sentence(survey.error.value ?? cross.error.value) }}
    </p>
    <LayoutLine
      v-if="way === 'Files' && (guesses.length || survey.data.value?.layout)"
      :image="image"
      :guesses="guesses"
      :said="survey.data.value?.layout ?? ''"
    />
    <HexView v-if="way === 'Sectors'" class="mt-2" :image="image" :sectors="sectors" />
    <DiskRow
      v-else-if="way === 'Disks'"
      :key="within"
      :image="image"
      :within="within"
      @made="emit('made', $event)"
    />
    <p v-else-if="volume === undefined" class="mt-2 text-slate">
      No volume of it can be read as files; its sectors can.
    </p>
    <template v-else-if="way === 'Files'">
      <TextView
        v-if="shown"
        class="mt-2"
        :image="image"
        :volume="volume"
        :path="shown"
        :within="within"
        @close="shown = ''"
      />
      <p v-if="steps.length" class="figure mt-2 text-[15px]" aria-label="Folder">
        <button type="button" class="text-river underline" @click="folder = ''">root</button>
        <template v-for="(x, i) in steps" :key="x.path">
          /
          <strong v-if="i === steps.length - 1">{{ x.name }}</strong>
          <button v-else type="button" class="text-river underline" @click="folder = x.path">
            {{ x.name }}
          </button>
        </template>
      </p>
      <div
        class="mt-2 max-h-[300px] overflow-y-auto"
        tabindex="0"
        role="region"
        aria-label="Files"
        @keydown.backspace="folder = steps.at(-2)?.path ?? ''"
      >
        <p v-if="files.data.value?.total === 0" class="text-slate">
          {{ find ? 'No file has these letters in its path.' : 'Nothing is in this folder.' }}
        </p>
        <table class="w-full text-[15px]">
          <thead class="sr-only">
            <tr>
              <th>Path</th>
              <th>Attributes</th>
              <th>Size</th>
              <th>Time</th>
              <th>Get</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="f in files.data.value?.rows" :key="f.path" class="border-t border-rule">
              <td class="figure max-w-0 truncate py-0.5" :class="f.folder ? 'font-bold' : ''">
                <span
                  v-if="f.notWhole"
                  class="mr-1 font-bold text-brick"
                  :title="`not whole: ${f.notWhole}`"
                  >▲<span class="sr-only">not whole: {{ f.notWhole }}</span></span
                >
                <button
                  type="button"
                  class="hover:text-river"
                  @click="f.folder ? ((folder = f.path), (find = '')) : (shown = f.path)"
                >
                  {{ find ? f.path : f.name }}{{ f.folder ? '/' : '' }}
                </button>
              </td>
              <td class="figure w-14 text-sm text-slate">{{ f.marks }}</td>
              <td class="figure w-24 text-right whitespace-nowrap">{{ f.size }}</td>
              <td class="figure w-40 text-right whitespace-nowrap text-slate">{{ f.time }}</td>
              <td class="text-right whitespace-nowrap" :class="f.drive ? 'w-32' : 'w-14'">
                <button
                  v-if="f.drive"
                  type="button"
                  class="mr-3 text-river underline"
                  :aria-label="`Open ${f.name}, the image of a drive`"
                  @click="go([...inside, `${volume}/${f.path}`])"
                >
                  open
                </button>
                <a v-if="f.folder" class="text-river underline" :href="zip(f.path)">zip</a>
                <a
                  v-else
                  class="text-river underline"
                  :href="get(f.path)"
                  :title="isPicture(f.path) ? 'a picture' : undefined"
                  >get</a
                >
              </td>
            </tr>
          </tbody>
        </table>
        <FindFile
          v-if="find && !inside.length"
          :image="image"
          :letters="find"
          :volume="volume"
          label="Elsewhere on it"
          choose="open"
          @choose="seek($event.in, $event.path)"
        />
        <p v-if="(files.data.value?.total ?? 0) > 2000" class="text-sm text-slate">
          The first 2 000 of {{ count(files.data.value?.total ?? 0) }}; narrow it by name.
        </p>
      </div>
    </template>
    <div v-else class="mt-2 grid gap-4 sm:grid-cols-2">
      <p v-if="!notable.data.value" class="text-slate">Reading the folders …</p>
      <section v-for="l in lists" :key="l.title">
        <h3 class="head">{{ l.title }}</h3>
        <p v-for="f in l.rows" :key="f.path" class="flex justify-between gap-2 text-[15px]">
          <span class="figure truncate">{{ f.path }}</span>
          <span class="figure shrink-0 text-slate">{{ l.size ? f.size : f.time }}</span>
        </p>
      </section>
      <section v-if="notable.data.value">
        <h3 class="head">Twice or more</h3>
        <ErrandLine v-if="errand" :errand="errand" title="Looking for twins" @stop="stop" />
        <p v-if="twins.isError.value" class="text-brick" role="alert">
          ✕ {{ sentence(twins.error.value) }}
        </p>
        <p v-if="twins.data.value?.count === 0" class="text-slate">Every file is its own.</p>
        <p v-if="twins.data.value?.count" class="text-slate">
          {{ count(twins.data.value.count) }}
          {{ twins.data.value.count === 1 ? 'content' : 'contents' }}, {{ twins.data.value.spare }}
          to spare
        </p>
        <p v-for="t in twins.data.value?.first" :key="t.sha256" class="text-[15px]">
          <span class="figure">{{ t.paths.slice(0, 3).join(' = ') }}</span>
          <span v-if="t.paths.length > 3" class="text-slate">
            and {{ t.paths.length - 3 }} more</span
          >
        </p>
      </section>
      <section v-if="notable.data.value">
        <h3 class="head">Waste by cluster size</h3>
        <p
          v-for="w in notable.data.value.slack"
          :key="w.clusterBytes"
          class="flex justify-between gap-2 text-[15px]"
          :class="w.chosen ? 'font-bold' : ''"
        >
          <span class="figure"
            >{{ count(w.clusterBytes) }} B{{ w.chosen ? ' ● as it is' : '' }}</span
          >
          <Why :sum="w.because" :text="w.because.lines[w.because.lines.length - 1].text" />
        </p>
      </section>
      <section v-if="notable.data.value?.deletedCount">
        <h3 class="head">
          Deleted, not written over: {{ count(notable.data.value.deletedCount) }}
        </h3>
        <p
          v-for="f in notable.data.value.deleted"
          :key="f.path"
          class="figure flex justify-between gap-2 text-[15px] text-slate line-through"
        >
          {{ f.path }} <span>{{ f.size }}</span>
        </p>
      </section>
      <section v-if="notable.data.value?.personalCount" class="sm:col-span-2">
        <h3 class="head">May be somebody’s private things</h3>
        <p class="text-[15px]">
          <span class="figure">{{ notable.data.value.personal.join(' · ') }}</span>
          <span v-if="notable.data.value.personalCount > 8" class="text-slate">
            and {{ count(notable.data.value.personalCount - 8) }} more</span
          >. Remember them before the old drive leaves the house: deleting is not wiping.
        </p>
      </section>
    </div>
  </div>
</template>
