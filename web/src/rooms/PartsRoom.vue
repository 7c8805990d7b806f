<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Schemas } from '../api/client'
import SchemaForm, { type Shape } from '../parts/SchemaForm.vue'
import Dialog from '../shed/Dialog.vue'

/** What lies in the drawer between board and card, and what could be bought (H-1). */
type Row = Schemas['DrawerRow']
const queries = useQueryClient()
const drawer = useQuery({ queryKey: ['drawer'], queryFn: () => ask(api.GET('/api/drawer')) })
const letters = ref('')
const rows = computed(() => {
  const wanted = letters.value.trim().toLowerCase()
  return (drawer.data.value ?? [])
    .filter((r) => [r.name, r.host, r.card, r.lies].some((t) => t.toLowerCase().includes(wanted)))
    .sort((a, b) => Number(b.count > 0) - Number(a.count > 0))
})
const there = computed(() => (drawer.data.value ?? []).filter((r) => r.count > 0).length)
const settled = { onSettled: () => queries.invalidateQueries() }
/** Count and place by themselves: another may be writing down the other of both. */
const put = useMutation({
  mutationFn: ({ r, now }: { r: Row; now: number | string }) => {
    const params = { path: { key: r.key } }
    return ask(
      typeof now === 'number'
        ? api.PUT('/api/drawer/{key}/count', { params, body: { count: now } })
        : api.PUT('/api/drawer/{key}/place', { params, body: { lies: now } }),
    )
  },
  ...settled,
})
function count(r: Row, typed: number): void {
  const now = Math.max(0, Math.min(100_000, Math.round(typed) || 0))
  if (now !== r.count) put.mutate({ r, now })
}
function lies(r: Row, typed: string): void {
  if (typed.trim() !== r.lies) put.mutate({ r, now: typed.trim() })
}
const text = (e: Event) => (e.target as HTMLInputElement).value
/** A kind of one's own begins as a copy of one that is there: no field is forgotten. */
const editing = ref<{ piece: Record<string, unknown>; title: string; fresh: boolean } | null>(null)
const shape = useQuery({
  queryKey: ['drawer-schema'],
  queryFn: async () => (await fetch(new Request('/api/drawer/schema'))).json() as Promise<Shape>,
  staleTime: Infinity,
})
/** What it is, where it plugs in, what it takes and bounds, what it costs and wants. */
const GROUPS = [
  ['key', 'name', 'host', 'card'],
  ['accepts', 'gives', 'needs', 'height', 'opens', 'slots', 'minutes'],
  ['reach', 'most', 'pio', 'bridge', 'fixed', 'solder'],
  ['price', 'settings', 'says'],
]
const groups = computed(() =>
  GROUPS.map((keys) => ({
    type: 'object',
    properties: Object.fromEntries(
      keys.map((k) => [k, shape.data.value?.properties?.[k] ?? {}] as const),
    ),
  })),
)
const own = useMutation({
  mutationFn: (piece: object) =>
    ask(api.POST('/api/drawer', { body: { text: JSON.stringify(piece) } })),
  onSuccess: () => (editing.value = null),
  ...settled,
})
const remove = useMutation({
  mutationFn: (key: string) => ask(api.DELETE('/api/drawer/{key}', { params: { path: { key } } })),
  ...settled,
})
const bringIn = useMutation({
  mutationFn: (t: string) => ask(api.POST('/api/drawer/import', { body: { text: t } })),
  ...settled,
})
async function chosen(e: Event): Promise<void> {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  if (file) bringIn.mutate(await file.text())
  input.value = ''
}
function edit(r: Row, copy: boolean): void {
  const piece = JSON.parse(r.text) as Record<string, unknown>
  if (copy) {
    piece.key = `own-${r.key}`.slice(0, 40)
    piece.name = `${r.name}, own`
  }
  own.reset()
  editing.value = { piece, title: copy ? 'A kind of your own' : r.name, fresh: copy }
}
</script>

<template>
  <section>
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h1 class="text-xl font-bold">Parts drawer</h1>
      <span v-if="drawer.data.value" class="text-slate"
        >{{ there }} of {{ drawer.data.value.length }} kinds lie here</span
      >
      <span class="grow" />
      <input
        v-model="letters"
        class="field w-56!"
        aria-label="Part of a name, joint or place"
        placeholder="name, joint, place"
      />
      <a class="plain" href="/api/drawer.json">As a JSON file</a>
      <label class="plain cursor-pointer focus-within:outline-2"
        >Bring in a drawer
        <input type="file" accept=".json,application/json" class="sr-only" @change="chosen" />
      </label>
    </div>
    <p
      v-for="e in [
        drawer.error.value,
        put.error.value,
        remove.error.value,
        bringIn.error.value,
      ].filter(Boolean)"
      :key="String(e)"
      class="mb-3 text-brick"
      role="alert"
    >
      ✕ {{ sentence(e) }}
    </p>
    <p v-if="bringIn.isSuccess.value" class="mb-3 text-moss" role="status">✓ The drawer is in.</p>
    <p v-if="drawer.isPending.value" class="sheet p-6 text-slate">Opening the drawer …</p>
    <p v-else-if="!rows.length" class="sheet p-6 text-slate">Nothing here has these letters.</p>
    <div v-else class="sheet">
      <table class="block w-full md:table">
        <thead class="hidden md:table-header-group">
          <tr class="text-left text-sm text-slate">
            <th class="px-4 pt-3 font-normal">part</th>
            <th class="pt-3 font-normal">towards the machine</th>
            <th class="pt-3 font-normal">towards the card</th>
            <th class="pt-3 text-right font-normal">price</th>
            <th class="pt-3 pl-4 font-normal">here</th>
            <th class="pt-3 pl-3 font-normal">where it lies</th>
            <th class="px-4 pt-3"><span class="sr-only">what can be done</span></th>
          </tr>
        </thead>
        <tbody class="block md:table-row-group">
          <tr
            v-for="r in rows"
            :key="r.key"
            class="block border-t border-rule px-4 py-2 md:table-row md:p-0"
          >
            <td class="block md:table-cell md:px-4 md:py-2">
              <strong :class="r.count ? '' : 'font-normal'">{{ r.name }}</strong>
              <span v-if="!r.ships" class="ml-2 text-sm text-river">◆ own</span>
            </td>
            <td class="block text-[15px] md:table-cell md:py-2 md:pr-3">{{ r.host }}</td>
            <td class="block text-[15px] md:table-cell md:py-2 md:pr-3">{{ r.card || '–' }}</td>
            <td class="figure block md:table-cell md:py-2 md:text-right">{{ r.price }}</td>
            <td class="inline-block md:table-cell md:py-1.5 md:pl-4">
              <input
                type="number"
                min="0"
                max="100000"
                class="field figure w-20!"
                :value="r.count"
                :aria-label="`How many of ${r.name} lie here`"
                @change="count(r, Number(text($event)))"
              />
            </td>
            <td class="inline-block md:table-cell md:py-1.5 md:pl-3">
              <input
                class="field w-40!"
                maxlength="120"
                :value="r.lies"
                :aria-label="`Where ${r.name} lies`"
                placeholder="box, shelf"
                @change="lies(r, text($event))"
              />
            </td>
            <td class="block text-sm whitespace-nowrap md:table-cell md:px-4 md:text-right">
              <button
                v-if="r.ships"
                type="button"
                class="text-river underline"
                @click="edit(r, true)"
              >
                own one like it
              </button>
              <template v-else>
                <button type="button" class="text-river underline" @click="edit(r, false)">
                  change
                </button>
                <button
                  type="button"
                  class="ml-3 text-river underline"
                  @click="remove.mutate(r.key)"
                >
                  take away
                </button>
              </template>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <Dialog v-if="editing" :title="editing.title" wide @close="editing = null">
      <p v-if="shape.isError.value" class="text-brick" role="alert">
        ✕ {{ sentence(shape.error.value) }}
      </p>
      <form v-else @submit.prevent="own.mutate(editing.piece)">
        <div class="grid gap-x-8 gap-y-5 md:grid-cols-2">
          <SchemaForm
            v-for="(g, i) in groups"
            :key="i"
            :model-value="editing.piece"
            :shape="g"
            :locked="editing.fresh ? [] : ['key']"
            class="content-start"
            @update:model-value="(to) => (editing!.piece = to as Record<string, unknown>)"
          />
        </div>
        <p v-if="own.isError.value" class="mt-2 text-brick" role="alert">
          ✕ {{ sentence(own.error.value) }}
        </p>
        <button class="next mt-3">Put it in the drawer</button>
      </form>
    </Dialog>
  </section>
</template>
