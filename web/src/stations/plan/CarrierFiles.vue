<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, ask, type Plan, type PlanChoice } from '../../api/client'
import FindFile from '../../parts/FindFile.vue'
import ImageChoice from '../../parts/ImageChoice.vue'
import { inUnit } from '../../shed/units'

/** What lies on a carrier card: each an image of the shelf under an id, as a file of its own. */
const props = defineProps<{ plan: Plan; choice: PlanChoice }>()
const emit = defineEmits<{ change: [how: (c: PlanChoice) => void] }>()
const adding = ref(0)
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const carrier = computed(
  () => catalogue.data.value?.machines.find((m) => m.key === props.plan.machine)?.carrier,
)
/** A bus has drives under ids; a floppy emulator has disks under numbers. */
const numbered = computed(() => carrier.value?.template.includes('{number}') ?? false)
const word = computed(() => (numbered.value ? 'disk' : 'drive'))
const all = computed(() => props.plan.volumes.flatMap((v) => v.files))
const list = computed(() => all.value.find((f) => f.text !== ''))
/** In the order of their numbers, each with its place in the choice. */
const files = computed(() =>
  all.value
    .filter((f) => f.text === '')
    .map((file, at) => ({ file, at }))
    .sort((a, b) => (numbered.value ? a.file.id - b.file.id : 0)),
)
const gaps = computed(() => numbered.value && files.value.some((f, i) => f.file.id !== ids(i)))
const ids = (i: number) => carrier.value?.ids[i]
const name = (id: number) => (numbered.value ? String(id).padStart(3, '0') : `id ${id}`)

watch(adding, (imageId) => {
  if (imageId) add(imageId)
  adding.value = 0
})
function add(imageId: number): void {
  emit('change', (c) => {
    held(c)
    c.carried.push({ imageId, id: -1 })
  })
}
/** Ids as they stand, so that what is done to one does not move the others. */
function held(c: PlanChoice): void {
  files.value.forEach(({ file, at }) => c.carried[at] && (c.carried[at].id = file.id))
}
/** Gives one another id; the one that has it takes the old one in exchange. */
function move(at: number, id: number): void {
  emit('change', (c) => {
    held(c)
    const other = c.carried.find((x) => x.id === id)
    if (other) other.id = c.carried[at].id
    c.carried[at].id = id
  })
}
function closeGaps(): void {
  emit('change', (c) => files.value.forEach(({ at }, i) => (c.carried[at].id = ids(i) ?? -1)))
}
</script>

<template>
  <section :aria-label="numbered ? 'Disks on the carrier' : 'Drives on the carrier'">
    <h3 class="head">{{ numbered ? 'Disks on the carrier' : 'Drives on the carrier' }}</h3>
    <ul class="mt-1 divide-y divide-rule">
      <li v-for="{ file: f, at } in files" :key="at" class="flex items-center gap-3 py-1.5">
        <select
          class="field figure w-24! shrink-0 px-2!"
          :aria-label="`${numbered ? 'Number' : 'Id'} of ${f.title}`"
          :title="`A taken one is exchanged`"
          :value="f.id"
          @change="move(at, Number(($event.target as HTMLSelectElement).value))"
        >
          <option v-for="id in carrier?.ids" :key="id" :value="id">{{ name(id) }}</option>
        </select>
        <span class="min-w-0 grow">
          <span class="figure block font-bold">{{ f.name }}</span>
          <span class="block truncate text-sm text-slate" :title="f.title"
            ><span class="figure">{{ inUnit(f.bytes / 512, 'MiB') }}</span> · {{ f.title }}</span
          >
        </span>
        <button
          type="button"
          class="shrink-0 text-sm text-river underline"
          :aria-label="`Take ${f.title} off the carrier`"
          @click="
            emit('change', (c) => {
              held(c)
              c.carried.splice(at, 1)
            })
          "
        >
          take off
        </button>
      </li>
    </ul>
    <button v-if="gaps" type="button" class="plain mt-1" @click="closeGaps">
      Number them without gaps
    </button>
    <details v-if="list" class="mt-1 text-[15px]">
      <summary class="cursor-pointer text-river underline">
        {{ list.name }}, the list the emulator reads
      </summary>
      <pre class="figure mt-1 overflow-x-auto text-sm">{{ list.text }}</pre>
    </details>
    <ImageChoice
      v-model="adding"
      class="mt-2"
      :label="`Add a ${word} from the shelf`"
      :none="`add a ${word} from the shelf`"
    />
    <FindFile
      v-if="numbered"
      class="mt-2"
      label="Find a disk by a file on it"
      choose="add"
      @choose="add($event.image)"
    />
  </section>
</template>
