<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, nextTick, ref } from 'vue'
import { api, ask, sentence, type Schemas } from '../api/client'
import ErrandLine from './ErrandLine.vue'
import ImageChoice from './ImageChoice.vue'
import { useErrand } from './useErrand'

/**
 * F-16: a row of small disks. What is done to it is kept as a list, shown as it will be, taken back
 * step by step, and made on a copy all at once.
 */
const props = defineProps<{ image: number; within: string }>()
const emit = defineEmits<{ made: [image: number] }>()
type Change = Schemas['ChangeText']
type Place = Schemas['DiskPlace'] & { fresh: boolean }
const queries = useQueryClient()
const at = computed(() => ({ path: { id: props.image }, query: { in: props.within } }))
const library = useQuery({
  queryKey: computed(() => ['library', props.image, props.within]),
  queryFn: () => ask(api.GET('/api/images/{id}/library', { params: at.value })),
})
const changes = ref<Change[]>([])
const find = ref('')
const naming = ref(-1)
const title = ref('')
const putting = ref(-1)
const disk = ref(0)
const said = ref('')
const form = ref<HTMLFormElement | null>(null)
const { errand, run, stop } = useErrand()

/** The row as it will be. */
const places = computed(() => {
  const row: Place[] = (library.data.value?.places ?? []).map((p) => ({ ...p, fresh: false }))
  for (const c of changes.value) {
    const p = row[c.number]
    if (c.verb === 'MOVE') {
      const [moved] = row.splice(c.number, 1)
      row.splice(c.to, 0, { ...moved, fresh: true })
    } else if (c.verb === 'REMOVE') row[c.number] = { ...p, title: '', state: 'BLANK', fresh: true }
    else if (c.verb === 'PUT')
      row[c.number] = { ...p, title: c.title || 'the disk', state: 'OPEN', fresh: true }
    else if (c.verb === 'TITLE') row[c.number] = { ...p, title: c.title, fresh: true }
    else row[c.number] = { ...p, state: c.verb === 'LOCK' ? 'LOCKED' : 'OPEN', fresh: true }
  }
  return row.map((p, number) => ({ ...p, number }))
})
const shown = computed(() => {
  const words = find.value.toLowerCase()
  return places.value.filter((p) => !words || p.title.toLowerCase().includes(words))
})
const isDisk = (p: Place) => p.state === 'OPEN' || p.state === 'LOCKED'
const disks = computed(() => places.value.filter(isDisk).length)

function add(verb: Change['verb'], number: number, more: Partial<Change> = {}): void {
  changes.value.push({ verb, number, to: 0, title: '', image: 0, ...more })
}
/** The form stands above the row, in sight, and takes the focus. */
async function choose(number: number): Promise<void> {
  putting.value = number
  title.value = ''
  await nextTick()
  form.value?.scrollIntoView?.({ block: 'nearest' })
  form.value?.querySelector('select')?.focus()
}
/** The disk and the focus go together, so that it can be moved on. */
async function move(from: number, to: number): Promise<void> {
  if (to < 0 || to >= places.value.length) return
  add('MOVE', from, { to })
  await nextTick()
  document.getElementById(`place-${to}`)?.focus()
}
function named(number: number): void {
  const before = places.value[number].title
  if (naming.value === number && title.value && title.value !== before) {
    add('TITLE', number, { title: title.value })
  }
  naming.value = -1
}
function put(): void {
  add('PUT', putting.value, { image: disk.value, title: title.value })
  putting.value = -1
  disk.value = 0
  title.value = ''
}
const make = useMutation({
  mutationFn: () => {
    const body = { changes: changes.value }
    return run(ask(api.POST('/api/images/{id}/library', { params: at.value, body })))
  },
  onSuccess: (made) => {
    changes.value = []
    void queries.invalidateQueries({ queryKey: ['images'] })
    emit('made', made)
  },
})
const extract = useMutation({
  mutationFn: (p: Place) => {
    const path = { id: props.image, number: p.number }
    const params = { path, query: { in: props.within } }
    return run(ask(api.POST('/api/images/{id}/library/{number}', { params })))
  },
  onSuccess: (_, p) => {
    said.value = `“${p.title}” is on the shelf as an image of its own.`
    void queries.invalidateQueries({ queryKey: ['images'] })
  },
})
</script>

<template>
  <div class="mt-2">
    <div class="flex flex-wrap items-center gap-3">
      <p v-if="library.data.value">
        <strong class="figure">{{ disks }}</strong> {{ disks === 1 ? 'disk' : 'disks' }} of
        <span class="figure">{{ library.data.value.disk }}</span> in
        <span class="figure">{{ places.length }}</span> places
      </p>
      <span class="grow" />
      <input
        v-model="find"
        class="field w-56!"
        placeholder="part of a title"
        aria-label="Find a disk"
      />
    </div>
    <p
      v-if="library.isError.value || make.isError.value || extract.isError.value"
      class="text-brick"
      role="alert"
    >
      ✕ {{ sentence(library.error.value ?? make.error.value ?? extract.error.value) }}
    </p>
    <p v-if="said" class="text-moss" role="status">✓ {{ said }}</p>
    <form
      v-if="putting >= 0"
      ref="form"
      class="sheet mt-3 flex flex-wrap items-end gap-3 p-3"
      @submit.prevent="put"
    >
      <label class="grow"
        ><span class="head">A disk for place {{ putting }}</span
        ><ImageChoice v-model="disk" class="mt-1" none="choose an image of the shelf" required
      /></label>
      <label
        ><span class="head">Title</span
        ><input v-model.trim="title" class="field mt-1" maxlength="80" placeholder="its own name"
      /></label>
      <button class="plain" :disabled="!disk">Put it there</button>
      <button type="button" class="plain" @click="putting = -1">Leave it</button>
      <p class="w-full text-sm text-slate">
        An image file of a desktop comes to the shelf by Media, “put it on the shelf”.
      </p>
    </form>
    <div class="mt-2 max-h-[340px] overflow-y-auto" tabindex="0" role="region" aria-label="Disks">
      <p v-if="find && !shown.length" class="text-slate">No title has these letters.</p>
      <table class="w-full text-[15px]">
        <thead class="sr-only">
          <tr>
            <th>Place</th>
            <th>Title</th>
            <th>State</th>
            <th>What to do</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="p in shown"
            :id="`place-${p.number}`"
            :key="p.number"
            class="border-t border-rule"
            :class="p.fresh ? 'bg-lampwash' : ''"
            tabindex="0"
            :aria-label="`Place ${p.number}, ${p.title || 'no disk'}`"
            @keydown.alt.up.prevent="move(p.number, p.number - 1)"
            @keydown.alt.down.prevent="move(p.number, p.number + 1)"
          >
            <td class="figure w-14 py-0.5 pr-3 text-right">{{ p.number }}</td>
            <td class="figure">
              <input
                v-if="naming === p.number"
                v-model.trim="title"
                class="field"
                maxlength="80"
                :aria-label="`Title of disk ${p.number}`"
                @keydown.enter="named(p.number)"
                @keydown.esc.stop="naming = -1"
                @blur="named(p.number)"
              />
              <template v-else>{{ p.title || (isDisk(p) ? 'no title' : '') }}</template>
            </td>
            <td class="w-32 text-sm text-slate">
              {{ p.state === 'LOCKED' ? '■ locked' : p.state === 'OPEN' ? '□ open' : '· no disk' }}
            </td>
            <td class="w-[26rem] text-right whitespace-nowrap">
              <template v-if="isDisk(p)">
                <button
                  type="button"
                  class="ml-3 text-river underline"
                  @click="add(p.state === 'LOCKED' ? 'OPEN' : 'LOCK', p.number)"
                >
                  {{ p.state === 'LOCKED' ? 'unlock' : 'lock' }}
                </button>
                <button
                  type="button"
                  class="ml-3 text-river underline"
                  @click="((naming = p.number), (title = p.title))"
                >
                  title
                </button>
                <button
                  v-if="!changes.length"
                  type="button"
                  class="ml-3 text-river underline"
                  @click="extract.mutate(p)"
                >
                  copy out
                </button>
              </template>
              <button
                v-if="p.state !== 'LOCKED'"
                type="button"
                class="ml-3 text-river underline"
                @click="choose(p.number)"
              >
                {{ isDisk(p) ? 'replace' : 'put a disk here' }}
              </button>
              <button
                v-if="p.state === 'OPEN'"
                type="button"
                class="ml-3 text-river underline"
                @click="add('REMOVE', p.number)"
              >
                take out
              </button>
              <button
                type="button"
                class="key ml-3"
                :disabled="p.number === 0"
                :aria-label="`Move ${p.title} up`"
                @click="move(p.number, p.number - 1)"
              >
                ↑
              </button>
              <button
                type="button"
                class="key ml-1"
                :disabled="p.number === places.length - 1"
                :aria-label="`Move ${p.title} down`"
                @click="move(p.number, p.number + 1)"
              >
                ↓
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <ErrandLine v-if="errand" class="mt-2" :errand="errand" title="Working" @stop="stop" />
    <div v-if="changes.length" class="mt-3 flex flex-wrap items-center gap-3" role="status">
      <button type="button" class="next" :disabled="make.isPending.value" @click="make.mutate()">
        Make a copy with {{ changes.length }} {{ changes.length === 1 ? 'change' : 'changes' }}
      </button>
      <button type="button" class="plain" @click="changes.pop()">Undo the last</button>
      <span class="text-sm text-slate"
        >The library itself stays as it is; every other disk is compared to the byte.</span
      >
    </div>
    <p v-else class="mt-2 text-sm text-slate">
      <span class="key">Alt ↑</span> <span class="key">Alt ↓</span> move the disk that has the
      focus.
    </p>
  </div>
</template>
