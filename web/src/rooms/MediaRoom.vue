<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Medium } from '../api/client'
import Why from '../because/Why.vue'
import { useCardKinds } from '../parts/cards'
import BringIn from '../parts/BringIn.vue'
import NewCard from '../parts/NewCard.vue'
import ReadersSheet from '../parts/ReadersSheet.vue'
import RestoreDialog from '../parts/RestoreDialog.vue'
import TrueSizeDialog from '../parts/TrueSizeDialog.vue'
import WipeDialog from '../parts/WipeDialog.vue'
import WorkPanel from '../parts/WorkPanel.vue'
import { count } from '../shed/units'
import ErrandLine from '../parts/ErrandLine.vue'
import { useErrand } from '../parts/useErrand'
import { useKept } from './useKept'

const bringing = ref(false)
const adding = ref(false)
const restoring = ref(0)
const sizing = ref<Medium | null>(null)
const wiping = ref<Medium | null>(null)
/** Work of no job: it is begun in a dialog, and found again here. */
const restores = useQuery({ queryKey: ['restores'], queryFn: () => ask(api.GET('/api/restores')) })
const OVER = ['DONE', 'FAILED', 'CANCELLED']
const inHand = computed(() => (restores.data.value ?? []).filter((w) => !OVER.includes(w.state)))
const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
const queries = useQueryClient()
const { errand, run, stop } = useErrand()
/** An image that was brought in needs no job to be on the shelf. */
const shelve = useMutation({
  mutationFn: (m: Medium) => run(ask(api.POST('/api/media/{id}/image', at(m.id)))),
  onSettled: () => queries.invalidateQueries({ queryKey: ['images'] }),
})
const at = (id: number) => ({ params: { path: { id } } })
const { naming, name, rename, remove } = useKept<Medium>('media', {
  rename: (id, name) => ask(api.PUT('/api/media/{id}', { ...at(id), body: { name } })),
  remove: (id) => ask(api.DELETE('/api/media/{id}', at(id))),
  back: (id) => ask(api.POST('/api/media/{id}/back', at(id))),
  gone: (kept) => `${kept.name} is out of the drawer; its bytes are kept.`,
})
const kinds = useCardKinds()
/** What a card is made for; a choice that was not taken goes back to what was there. */
const made = useMutation({
  mutationFn: (c: { card: Medium; field: HTMLSelectElement }) =>
    ask(api.PUT('/api/media/{id}/joint', { ...at(c.card.id), body: { joint: c.field.value } })),
  onError: (_, c) => (c.field.value = c.card.joint),
  onSettled: () => queries.invalidateQueries(),
})
const LOOKED = {
  TRUE: { words: '✓ true size', tone: 'text-moss' },
  WRAPS: { words: '✕ said more, wraps', tone: 'text-brick' },
  LOSES: { words: '✕ said more, loses', tone: 'text-brick' },
  BAD: { words: '✕ bad sectors', tone: 'text-brick' },
} as const
function titled(w: { kind: string; mediumId: number }): string {
  const name = media.data.value?.find((m) => m.id === w.mediumId)?.name ?? 'a card'
  if (w.kind === 'WIPE') return `Wiping ${name}`
  return w.kind === 'TRUE_SIZE'
    ? `Looking at the true size of ${name}`
    : `Writing an image to ${name}`
}
/** Sheets that are there only where something is in them. */
const REAL = ['Old drives at a device node', 'Cards in readers']
const groups = computed(() => {
  const all = media.data.value ?? []
  return [
    {
      title: 'Old drives',
      note: 'stand-ins; read, never written, wiped only when their image is proved',
      list: all.filter((m) => m.kind === 'drive'),
    },
    {
      title: 'Old drives at a device node',
      note: 'real; opened for reading only',
      list: all.filter((m) => m.kind === 'device'),
    },
    {
      title: 'Images brought in',
      note: 'each stands for the drive it came from',
      list: all.filter((m) => m.kind === 'image brought in'),
    },
    {
      title: 'Cards in the drawer',
      note: 'stand-ins; some hold less than they say, as real ones do',
      list: all.filter((m) => m.kind === 'card'),
    },
    {
      title: 'Cards in readers',
      note: 'real; written past every cache and read back from the card itself',
      list: all.filter((m) => m.kind === 'card in a reader'),
    },
  ].filter((g) => g.list.length || !REAL.includes(g.title))
})
</script>

<template>
  <section>
    <div class="mb-3 flex items-start justify-between">
      <h1 class="text-xl font-bold">Media</h1>
      <div class="flex gap-3">
        <RouterLink class="plain" to="/media/register">Register</RouterLink>
        <button type="button" class="plain" @click="adding = true">Add a card</button>
        <button type="button" :class="inHand.length ? 'plain' : 'next'" @click="bringing = true">
          Bring in an image
        </button>
      </div>
    </div>
    <p v-if="media.isError.value" class="text-brick" role="alert">
      ✕ {{ sentence(media.error.value) }}
    </p>
    <p v-if="made.isError.value" class="mb-3 text-brick" role="alert">
      ✕ {{ sentence(made.error.value) }}
    </p>
    <p v-if="remove.isError.value" class="mb-3 text-brick" role="alert">
      ✕ {{ sentence(remove.error.value) }}
    </p>
    <ErrandLine
      v-if="errand"
      class="mb-3"
      :errand="errand"
      title="Putting it on the shelf"
      @stop="stop"
    />
    <p v-else-if="shelve.isSuccess.value" class="mb-3 text-moss" role="status">
      ✓ On the shelf:
      <RouterLink class="underline" :to="`/images?at=${shelve.data.value}`">{{
        shelve.variables.value?.name
      }}</RouterLink>
    </p>
    <p v-if="shelve.isError.value" class="mb-3 text-brick" role="alert">
      ✕ {{ sentence(shelve.error.value) }}
    </p>
    <WorkPanel
      v-for="w in inHand"
      :key="w.id"
      class="mb-3"
      :work-id="w.id"
      :title="titled(w)"
      paused="Go on"
    />
    <ReadersSheet :taken="media.data.value ?? []" />
    <div v-for="g in groups" :key="g.title" class="sheet mb-3">
      <h2 class="px-4 pt-3 pb-1">
        <strong>{{ g.title }}</strong> <span class="text-sm text-slate">{{ g.note }}</span>
      </h2>
      <p v-if="!g.list.length" class="px-4 pb-3 text-slate">None yet.</p>
      <table v-if="g.list.length" class="block w-full sm:table">
        <tbody class="block sm:table-row-group">
          <tr
            v-for="m in g.list"
            :key="m.id"
            class="flex flex-wrap items-baseline gap-x-4 border-t border-rule px-4 py-2 sm:table-row sm:p-0"
          >
            <td class="basis-full sm:px-4 sm:py-2">
              <input
                v-if="naming === m.id"
                v-model="name"
                class="field"
                maxlength="120"
                :aria-label="`Name of ${m.name}`"
                @keydown.enter="rename.mutate(m.id)"
                @keydown.esc="naming = 0"
                @blur="rename.mutate(m.id)"
              />
              <template v-else>{{ m.name }}</template>
              <select
                v-if="m.card"
                class="-ml-1 block max-w-full cursor-pointer bg-transparent text-sm text-slate"
                :value="m.joint"
                :aria-label="`What ${m.name} is made for`"
                @change="made.mutate({ card: m, field: $event.target as HTMLSelectElement })"
              >
                <option value="">kind not said</option>
                <option v-for="c in kinds" :key="c.key" :value="c.key">{{ c.name }}</option>
              </select>
              <span v-if="inHand.some((w) => w.mediumId === m.id)" class="block text-sm text-lamp"
                >↻ work is in hand on it, see above</span
              >
              <span v-if="m.overwritten" class="block text-sm text-slate"
                >✕ overwritten by wiping, wholly or in part</span
              >
              <span v-if="m.remark" class="block text-sm text-brick">▲ {{ m.remark }}</span>
              <span v-if="m.holdsImage" class="block text-sm text-moss"
                >✓ holds
                <RouterLink class="underline" :to="`/images?at=${m.holdsImage}`"
                  >an image</RouterLink
                >
                by its last read-back</span
              >
            </td>
            <td class="figure text-sm text-slate sm:w-36">{{ m.serial || m.node }}</td>
            <td class="figure sm:w-44 sm:text-right">{{ count(m.sectors) }} sectors</td>
            <td class="figure text-sm whitespace-nowrap text-slate sm:w-36 sm:text-right">
              {{ m.label ? `label ${m.label}` : '' }}
            </td>
            <td class="sm:w-44 sm:px-4 sm:text-right">
              <Why :sum="m.sizeBecause" :text="m.size"
                ><span class="figure">{{ m.size }}</span></Why
              >
              <span v-if="m.own" class="figure block text-sm text-slate">{{ m.own }}</span>
              <Why v-if="m.trueSize" :sum="m.trueSize.because" :text="LOOKED[m.trueSize.kind].words"
                ><span class="text-sm" :class="LOOKED[m.trueSize.kind].tone">{{
                  LOOKED[m.trueSize.kind].words
                }}</span></Why
              >
              <span v-else class="block text-sm" :class="m.measured ? 'text-moss' : 'text-slate'">{{
                !m.card ? '' : m.measured ? '✓ as it answers' : '· by its label'
              }}</span>
            </td>
            <td class="text-sm whitespace-nowrap sm:w-36 sm:py-1.5 sm:pr-4 sm:text-right">
              <button
                v-if="m.card"
                type="button"
                class="mr-3 mb-1 text-river underline sm:mr-0 sm:block sm:w-full sm:text-right"
                @click="restoring = m.id"
              >
                put an image on it
              </button>
              <button
                v-if="m.card"
                type="button"
                class="mr-3 mb-1 text-river underline sm:mr-0 sm:block sm:w-full sm:text-right"
                @click="sizing = m"
              >
                its true size?
              </button>
              <button
                v-if="m.kind !== 'image brought in'"
                type="button"
                class="mr-3 mb-1 text-river underline sm:mr-0 sm:block sm:w-full sm:text-right"
                @click="wiping = m"
              >
                wipe it
              </button>
              <button
                v-if="m.kind === 'image brought in'"
                type="button"
                class="mr-3 mb-1 text-river underline sm:mr-0 sm:block sm:w-full sm:text-right"
                @click="shelve.mutate(m)"
              >
                put it on the shelf
              </button>
              <button
                type="button"
                class="text-river underline"
                @click="((naming = m.id), (name = m.name))"
              >
                rename
              </button>
              <button type="button" class="ml-3 text-river underline" @click="remove.mutate(m)">
                take away
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <BringIn v-if="bringing" @close="bringing = false" />
    <NewCard v-if="adding" @close="adding = false" />
    <TrueSizeDialog v-if="sizing" :card="sizing" @close="sizing = null" />
    <WipeDialog v-if="wiping" :medium-id="wiping.id" :name="wiping.name" @close="wiping = null" />
    <RestoreDialog v-if="restoring" :card="restoring" @close="restoring = 0" />
  </section>
</template>
