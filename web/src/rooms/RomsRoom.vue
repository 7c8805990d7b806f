<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, asItIs, ask, sentence, type Schemas } from '../api/client'
import { isLater, LEVELS } from '../parts/levels'
import { useUndo } from '../shed/undo'

/** The images of ROMs: brought in, made of one another, joined again. */
const queries = useQueryClient()
const router = useRouter()
const undo = useUndo()
const roms = useQuery({ queryKey: ['roms'], queryFn: () => ask(api.GET('/api/roms')) })
const picked = ref<number[]>([])
const over = ref(false)
const stale = () => queries.invalidateQueries({ queryKey: ['roms'] })

const add = useMutation({
  mutationFn: (file: File) =>
    ask(api.POST('/api/roms', { params: { query: { name: file.name } }, ...asItIs(file) })),
  onSuccess: async (view) => {
    await stale()
    await router.push(`/roms/${view.id}`)
  },
})
const join = useMutation({
  mutationFn: () => ask(api.POST('/api/roms/joined', { body: { ids: picked.value } })),
  onSuccess: () => {
    picked.value = []
    return stale()
  },
})
const remove = (id: number, back: boolean) =>
  ask(api.DELETE('/api/roms/{id}', { params: { path: { id }, query: { undo: back } } })).then(stale)
async function take(r: Schemas['RomRow']): Promise<void> {
  picked.value = picked.value.filter((id) => id !== r.id)
  await remove(r.id, false)
  undo.offer(`${r.name} is taken out.`, () => remove(r.id, true))
}
function pick(id: number): void {
  picked.value = picked.value.includes(id)
    ? picked.value.filter((x) => x !== id)
    : [...picked.value, id]
}
function chosen(files: FileList | null | undefined): void {
  over.value = false
  if (files?.[0]) add.mutate(files[0])
}
/** Builds for a processor and a number of drives: those that serve first, the smallest on top (O-8). */
const processor = ref<'' | keyof typeof LEVELS>('')
const drives = ref(0)
const choosing = computed(() => processor.value !== '' || drives.value > 0)
type RomRow = Schemas['RomRow']
const isLate = (r: RomRow) =>
  processor.value !== '' &&
  r.needs !== '' &&
  isLater(r.needs as keyof typeof LEVELS, processor.value)
const isFew = (r: RomRow) => r.drives > 0 && r.drives < drives.value
const isOpen = (r: RomRow) => !r.needs || (drives.value > 0 && r.drives === 0)
const serves = (r: RomRow) => !isLate(r) && !isFew(r)
const rows = computed(() => {
  const all = roms.data.value ?? []
  if (!choosing.value) return all
  const weight = (r: RomRow) => (!serves(r) ? 1 : isOpen(r) ? 2 : 0)
  return [...all].sort((a, b) => weight(a) - weight(b) || a.bytes - b.bytes)
})
const error = computed(() => roms.error.value ?? add.error.value ?? join.error.value)
</script>

<template>
  <section
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="chosen($event.dataTransfer?.files)"
  >
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h1 class="text-xl font-bold">ROM bench</h1>
      <span class="text-slate">raw bytes or hexadecimal text, to 2 MiB</span>
      <span class="grow" />
      <label v-if="roms.data.value?.length" class="text-sm text-slate"
        >builds for
        <select v-model="processor" class="field h-9 w-auto! py-0!">
          <option value="">any processor</option>
          <option v-for="(says, level) in LEVELS" :key="level" :value="level">an {{ says }}</option>
        </select></label
      >
      <label v-if="roms.data.value?.length" class="text-sm text-slate"
        >with
        <select v-model.number="drives" class="field h-9 w-auto! py-0!">
          <option :value="0">any number of drives</option>
          <option v-for="n in 8" :key="n" :value="n">
            {{ n }} {{ n === 1 ? 'drive' : 'drives' }}
          </option>
        </select></label
      >
      <button
        v-if="picked.length"
        type="button"
        class="next"
        :disabled="picked.length !== 2 && picked.length !== 4"
        @click="join.mutate()"
      >
        Join these {{ picked.length }}
      </button>
      <label class="cursor-pointer focus-within:outline-2" :class="picked.length ? 'plain' : 'next'"
        >Bring in an image
        <input
          type="file"
          class="sr-only"
          @change="chosen(($event.target as HTMLInputElement).files)"
        />
      </label>
    </div>
    <p v-if="error" class="mb-3 text-brick" role="alert">✕ {{ sentence(error) }}</p>
    <p v-if="join.data.value" class="mb-3" role="status">
      ✓ {{ join.data.value.sentence }}
      <RouterLink class="text-river underline" :to="`/roms/${join.data.value.id}`"
        >Look at it</RouterLink
      >
    </p>
    <p v-if="roms.isPending.value" class="sheet p-6 text-slate">Opening the bench …</p>
    <div
      v-else-if="!roms.data.value?.length"
      class="sheet border-dashed! p-8"
      :class="over ? 'bg-lampwash' : ''"
    >
      <h2 class="text-lg font-bold">No image of a ROM is here yet</h2>
      <p class="mt-1 text-slate">
        Drop one here: an option ROM before it is programmed, or what a programmer read from an
        original. Originals are read, labelled and kept unerased.
      </p>
    </div>
    <div v-else class="sheet" :class="over ? 'bg-lampwash' : ''">
      <table class="block w-full md:table">
        <thead class="hidden md:table-header-group">
          <tr class="text-left text-sm text-slate">
            <th class="px-4 pt-3 font-normal">image</th>
            <th class="pt-3 font-normal">size</th>
            <th class="pt-3 font-normal">what it is</th>
            <th class="pt-3 font-normal">made from</th>
            <th class="px-4 pt-3"><span class="sr-only">what can be done</span></th>
          </tr>
        </thead>
        <tbody class="block md:table-row-group">
          <tr
            v-for="(r, i) in rows"
            :key="r.id"
            class="block border-t border-rule px-4 py-2 md:table-row md:p-0"
          >
            <td class="block md:table-cell md:px-4 md:py-2">
              <RouterLink class="font-bold underline hover:text-river" :to="`/roms/${r.id}`">{{
                r.name
              }}</RouterLink>
            </td>
            <td class="figure block md:table-cell md:py-2 md:pr-3">{{ r.size }}</td>
            <td class="block md:table-cell md:py-2 md:pr-3">
              {{ r.what
              }}<template v-if="r.needs"
                >, {{ LEVELS[r.needs as keyof typeof LEVELS] }} or later</template
              >
              <template v-if="r.drives"
                >, {{ r.drives }} {{ r.drives === 1 ? 'drive' : 'drives' }}</template
              >
              <span v-if="isLate(r)" class="block text-sm text-brick"
                >✕ has instructions that it lacks</span
              >
              <span v-if="drives && !r.drives" class="block text-sm text-slate"
                >○ how many drives it serves is not said</span
              >
              <span v-if="isFew(r)" class="block text-sm text-brick">✕ serves fewer drives</span>
              <span
                v-if="choosing && serves(r) && !isOpen(r) && !i && !r.fault"
                class="block text-sm text-moss"
                >✓ the smallest that serves</span
              >
              <span v-if="r.fault" class="block text-sm text-brick">▲ {{ r.fault }}</span>
            </td>
            <td class="block text-sm md:table-cell md:py-2 md:pr-3">{{ r.madeFrom || '–' }}</td>
            <td class="block text-sm whitespace-nowrap md:table-cell md:px-4 md:text-right">
              <label class="mr-3 inline-flex items-center gap-2">
                <input
                  type="checkbox"
                  :checked="picked.includes(r.id)"
                  :aria-label="`Join ${r.name}`"
                  @change="pick(r.id)"
                />
                {{ picked.includes(r.id) ? `chip ${picked.indexOf(r.id) + 1}` : 'join' }}
              </label>
              <button type="button" class="text-river underline" @click="take(r)">take out</button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
