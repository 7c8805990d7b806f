<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, ask, sentence } from '../api/client'
import Why from '../because/Why.vue'
import BringMore from '../crossing/BringMore.vue'
import CrossingList from '../crossing/CrossingList.vue'
import DiskSet from '../crossing/DiskSet.vue'
import IntoLibrary from '../crossing/IntoLibrary.vue'
import OnTheMachine from '../crossing/OnTheMachine.vue'
import ForJobs from '../crossing/ForJobs.vue'
import HoldColumn from '../crossing/HoldColumn.vue'
import TextDialog from '../crossing/TextDialog.vue'
import TriedCard from '../crossing/TriedCard.vue'
import ThereList from '../crossing/ThereList.vue'
import { useCrossing, type ThereChange } from '../crossing/useCrossing'
import { dropped } from '../parts/dropped'
import ErrandLine from '../parts/ErrandLine.vue'
import SendingLine from '../parts/SendingLine.vue'
import { useTrail } from '../shed/crumbs'
import { useKeys } from '../shed/keys'
import { useUndo } from '../shed/undo'
import { count, sizeIn, useUnit } from '../shed/units'

/** Files on their way: one list as they are and as they will lie, and the place that fills. */
const route = useRoute()
const unit = useUnit()
const undo = useUndo()
const { crossing, choose, sending, bring, fetching, fetch, carrying, carry } = useCrossing(() =>
  Number(route.params.id),
)
const v = computed(() => crossing.data.value)
const trail = useTrail()
watch(
  v,
  (now) =>
    trail([
      { text: 'Images', to: '/images' },
      { text: now ? `Crossing to ${now.target}` : '', to: '' },
    ]),
  { immediate: true },
)
const disks = useQuery({ queryKey: ['disks'], queryFn: () => ask(api.GET('/api/images/disks')) })

const kind = computed(() => disks.data.value?.find((d) => d.key === v.value?.disk))

const over = ref(false)
const bringing = ref(false)
const onlyChanges = ref(false)
const letters = ref('')
const shown = ref(-1)
const texts = ref(false)
const rewrites = computed(() => {
  const t = v.value?.choices.text
  if (!t) return false
  return t.ends !== 'KEEP' || t.tabs > 0 || t.mark || (t.from !== '' && t.to !== '')
})
/** Whether what is on the volume is listed instead of what comes. */
const there = ref(false)
const rows = computed(() =>
  (v.value?.laid.rows ?? []).filter(
    (r) =>
      (!onlyChanges.value || r.state !== 'OVER') &&
      (shown.value < 0 || r.disk === shown.value) &&
      (r.from + ' ' + r.to).toLowerCase().includes(letters.value.toLowerCase()),
  ),
)
const isSet = computed(() => v.value?.image === 0)
/** Whether files lie on more than one place. */
const spread = computed(() => isSet.value || (v.value?.choices.further.length ?? 0) > 0)
const one = computed(() => (spread.value ? undefined : v.value?.laid.disks[0]))
const named = computed(() => Object.keys(v.value?.choices.names ?? {}).length)
const changes = computed(() => v.value?.choices.changes.length ?? 0)
/** What is done even where no file goes over. */
const alone = computed(() => changes.value > 0 || v.value?.laid.menu.list !== '')
const kib = computed(() => {
  const over = (v.value?.laid.rows ?? []).filter((r) => r.disk >= 0)
  return Math.ceil(over.reduce((all, r) => all + r.bytes, 0) / 1024)
})
const folders = computed(() => v.value?.laid.folders ?? [])
const rule = computed(() => v.value?.laid.rules.find((r) => r.key === v.value?.choices.rule))
const SORTS = {
  AS_IT_IS: 'the folders that it has',
  LETTER: 'a folder for each letter',
  RANGES: 'folders of ranges, A to D',
  KIND: 'a folder for each kind',
} as const

function drop(e: DragEvent): void {
  over.value = false
  if (e.dataTransfer && !v.value?.carried) bring.mutate(dropped(e.dataTransfer))
}
async function name(from: string, wanted: string): Promise<void> {
  const before = v.value?.choices.names[from]
  const view = await choose.mutateAsync((now) => ({ names: { ...now.names, [from]: wanted } }))
  // Its name may be taken, or not be one there.
  const to = view.laid.rows.find((r) => r.from === from)?.to
  undo.offer(`${from} will be called ${to || wanted}.`, () =>
    choose.mutateAsync((now) => {
      const names = { ...now.names }
      if (before) names[from] = before
      else delete names[from]
      return { names }
    }),
  )
}
/** Names that the machine asks for, over those that somebody gave. */
function nameAll(names: Record<string, string>): void {
  const before = v.value?.choices.names ?? {}
  choose.mutate((now) => ({ names: { ...now.names, ...names } }))
  undo.offer('They will be called as the machine asks.', () =>
    choose.mutateAsync(() => ({ names: before })),
  )
}
/** A volume that takes what does not fit the first, after those that do already. */
function goOnTo(number: number, on: boolean): void {
  shown.value = -1
  choose.mutate((now) => ({
    further: on ? [...now.further, number] : now.further.filter((n) => n !== number),
  }))
}
function leave(from: string, out: boolean): void {
  choose.mutate((now) => ({
    left: out ? [...now.left, from] : now.left.filter((x) => x !== from),
  }))
}
/** What was chosen before is offered back, change by change. */
function change(changes: ThereChange[]): void {
  const before = v.value?.choices.changes ?? []
  choose.mutate(() => ({ changes }))
  undo.offer('What is on the volume will be changed in the copy.', () =>
    choose.mutateAsync(() => ({ changes: before })),
  )
}
useKeys([
  {
    key: 'T',
    says: 'what is there already',
    when: () => v.value?.carried === false && !isSet.value,
    does: () => (there.value = !there.value),
  },
  {
    key: 'C',
    says: 'only what changes',
    does: () => (onlyChanges.value = !onlyChanges.value),
  },
  {
    key: 'X',
    says: 'what becomes of texts',
    when: () => v.value?.carried === false,
    does: () => (texts.value = true),
  },
  {
    key: 'A',
    says: 'bring more files',
    when: () => v.value?.carried === false,
    does: () => (bringing.value = true),
  },
])
const wrong = computed(
  () =>
    crossing.error.value ??
    choose.error.value ??
    bring.error.value ??
    fetch.error.value ??
    carry.error.value,
)
const verdict = computed(() => {
  const c = v.value
  if (!c) return ''
  const parts = []
  if (c.laid.stays)
    parts.push(`${count(c.laid.stays)} ${c.laid.stays === 1 ? 'stays' : 'stay'} on the quay`)
  if (c.laid.look) parts.push(`${count(c.laid.look)} to look at`)
  if (changes.value) {
    parts.push(
      `${count(changes.value)} ${changes.value === 1 ? 'change' : 'changes'} to what is there`,
    )
  }
  return parts.join(', ')
})
</script>

<template>
  <p v-if="crossing.isPending.value" class="sheet p-6 text-slate">Opening the crossing …</p>
  <p v-else-if="crossing.isError.value" class="sheet p-6 text-brick" role="alert">
    ✕ {{ sentence(crossing.error.value) }}
  </p>
  <div
    v-else-if="v"
    class="flex min-h-full flex-col gap-3 lg:h-full lg:flex-row"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <section
      class="sheet flex min-w-0 grow flex-col p-4"
      :class="over ? 'border-lamp! bg-lampwash!' : ''"
    >
      <div class="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h1 class="head">Crossing</h1>
        <span class="text-slate"
          >{{ count(v.laid.rows.length) }} {{ v.laid.rows.length === 1 ? 'file' : 'files' }}</span
        >
        <span class="grow" />
        <input
          v-if="v.laid.rows.length > 12 || there"
          v-model="letters"
          class="field h-8 w-36! py-0!"
          placeholder="part of a name"
          aria-label="Part of a name"
        />
        <button
          v-if="!v.carried"
          type="button"
          class="text-sm hover:text-river"
          @click="texts = true"
        >
          {{ rewrites ? '● texts: rewritten' : 'texts: as they are' }} <span class="key">X</span>
        </button>
        <button
          type="button"
          class="text-sm hover:text-river"
          :aria-pressed="onlyChanges"
          @click="onlyChanges = !onlyChanges"
        >
          {{ onlyChanges ? '● only what changes' : 'only what changes' }}
          <span class="key">C</span>
        </button>
        <button
          v-if="!v.carried && !isSet"
          type="button"
          class="text-sm hover:text-river"
          :aria-pressed="there"
          @click="there = !there"
        >
          {{ there ? '● there already' : 'there already' }} <span class="key">T</span>
        </button>
        <button
          v-if="!v.carried"
          type="button"
          class="text-sm hover:text-river"
          @click="bringing = true"
        >
          bring more <span class="key">A</span>
        </button>
      </div>
      <div v-if="!v.carried" class="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2 text-sm">
        <label v-if="isSet"
          >onto disks of
          <select
            class="field mt-1 h-9 w-auto! py-0!"
            :value="v.disk"
            @change="
              choose.mutate(() => ({ disk: ($event.target as HTMLSelectElement).value, rule: '' }))
            "
          >
            <option v-for="d in disks.data.value" :key="d.key" :value="d.key">{{ d.title }}</option>
          </select></label
        >
        <label v-if="v.laid.rules.length > 1"
          >names
          <select
            class="field mt-1 h-9 w-auto! py-0!"
            :value="v.choices.rule"
            @change="choose.mutate(() => ({ rule: ($event.target as HTMLSelectElement).value }))"
          >
            <option v-for="r in v.laid.rules" :key="r.key" :value="r.key">{{ r.says }}</option>
          </select></label
        >
        <span v-else-if="v.laid.rules.length" class="pb-2 text-slate"
          >names: {{ v.laid.rules[0].says }}</span
        >
        <label v-if="rule?.folders"
          >folders
          <select
            class="field mt-1 h-9 w-auto! py-0!"
            :value="v.choices.shelving"
            @change="
              choose.mutate(() => ({
                shelving: ($event.target as HTMLSelectElement).value as keyof typeof SORTS,
              }))
            "
          >
            <option v-for="(says, key) in SORTS" :key="key" :value="key">{{ says }}</option>
          </select></label
        >
        <label v-if="rule?.folders && v.choices.shelving === 'RANGES'"
          >at most
          <input
            type="number"
            min="1"
            max="65535"
            class="field figure mt-1 h-9 w-20! py-0!"
            :value="v.choices.most"
            @change="
              choose.mutate(() => ({
                most: Number(($event.target as HTMLInputElement).value) || 40,
              }))
            "
        /></label>
        <label
          >lines a page
          <input
            type="number"
            min="0"
            max="1000"
            class="field figure mt-1 h-9 w-20! py-0!"
            title="Entries that a browser on the machine shows at once; 0 where it is not known"
            :value="v.choices.lines"
            @change="
              choose.mutate(() => ({
                lines: Number(($event.target as HTMLInputElement).value) || 0,
              }))
            "
        /></label>
        <div
          v-if="v.others.length"
          role="group"
          aria-label="What does not fit goes on to"
          class="flex min-h-9 flex-wrap items-center gap-x-3"
        >
          <span aria-hidden="true">what does not fit goes on to</span>
          <label v-for="o in v.others" :key="o.number" class="flex items-center gap-2">
            <input
              type="checkbox"
              :checked="v.choices.further.includes(o.number)"
              @change="goOnTo(o.number, ($event.target as HTMLInputElement).checked)"
            />
            <span
              >{{ o.name }}<span class="text-slate">, {{ o.free }} free</span></span
            ></label
          >
        </div>
        <label v-if="spread" class="flex h-9 items-center gap-2">
          <input
            type="checkbox"
            :checked="v.choices.together"
            @change="
              choose.mutate(() => ({ together: ($event.target as HTMLInputElement).checked }))
            "
          />
          keep folders together
        </label>
      </div>
      <div v-if="v.refusal" class="mt-3 text-brick" role="alert">
        ✕ {{ v.refusal }}
        <button
          v-if="changes"
          type="button"
          class="plain ml-2"
          @click="choose.mutate(() => ({ changes: [] }))"
        >
          Take the changes back
        </button>
      </div>
      <ThereList
        v-else-if="there && !v.carried"
        class="mt-2 grow"
        :crossing="v"
        :letters="letters"
        @change="change"
      />
      <div
        v-else-if="!v.laid.rows.length"
        class="mt-4 grow rounded border border-dashed border-slate p-8"
      >
        <h2 class="text-lg font-bold">Nothing waits on the quay yet</h2>
        <p class="mt-1 text-slate">
          Drop files and folders here. What each will be called and whether all of it fits is shown
          before anything is copied.
        </p>
        <button type="button" class="next mt-4" @click="bringing = true">Bring files</button>
      </div>
      <CrossingList
        v-else
        class="mt-2 grow"
        :crossing="v"
        :rows="rows"
        @name="name"
        @leave="leave"
      />
      <SendingLine
        v-if="bring.isPending.value && !bringing"
        :sent="sending.sent.value"
        :share="sending.share.value"
        @halt="sending.halt()"
      />
      <ErrandLine
        v-if="carrying.errand.value"
        :errand="carrying.errand.value"
        title="Carrying over"
        @stop="carrying.stop()"
      />
      <p v-if="wrong" class="mt-2 text-brick" role="alert">✕ {{ sentence(wrong) }}</p>
      <div v-if="v.carried" class="mt-3 flex flex-wrap items-center gap-3" role="status">
        <p class="font-bold text-moss">
          ✓ {{ count(v.laid.over) }} {{ v.laid.over === 1 ? 'file' : 'files' }} carried
          over<template v-if="changes"
            >, {{ count(changes) }} {{ changes === 1 ? 'change' : 'changes' }} made</template
          >; all of it was read back and is right
        </p>
        <span class="grow" />
        <a class="plain" :href="`/api/crossings/${v.id}/list`">List of names</a>
        <a class="plain" :href="`/api/crossings/${v.id}/zip`">Zip under the old names</a>
      </div>
      <div
        v-else-if="(v.laid.rows.length || alone) && !carrying.errand.value"
        class="mt-3 flex flex-wrap items-center gap-3"
      >
        <button
          type="button"
          class="next"
          :disabled="
            (v.laid.over === 0 && !alone) || carry.isPending.value || bring.isPending.value
          "
          @click="carry.mutate(undefined, { onSuccess: () => undo.drop() })"
        >
          {{ v.laid.over || !alone ? `Carry ${count(v.laid.over)} over` : 'Make the copy' }}
        </button>
        <span>{{ verdict }}</span>
        <span class="grow" />
        <span class="text-sm text-slate"
          >{{ isSet ? 'onto new images' : 'onto a copy; the image itself stays' }} · the list of
          names is kept<template v-if="named"> · {{ named }} named by you</template></span
        >
      </div>
    </section>
    <aside class="sheet shrink-0 p-4 lg:w-[clamp(220px,27%,320px)] lg:overflow-y-auto">
      <template v-if="one">
        <h2 class="head">{{ one.name }} fills to</h2>
        <p class="figure text-2xl font-bold">
          <Why :sum="one.because" :text="sizeIn(one.there + one.comes, unit.unit)" />
          <span class="ml-2 text-sm font-normal text-slate"
            >of {{ sizeIn(one.size, unit.unit) }}</span
          >
        </p>
        <HoldColumn class="mt-2" :hold="one" />
        <p v-if="one.rootLeft >= 0" class="mt-2 text-sm">
          ✓ {{ count(one.rootLeft) }} {{ one.rootLeft === 1 ? 'entry' : 'entries' }} left in the
          root
        </p>
        <RouterLink
          v-if="one.image"
          class="mt-2 inline-block text-river underline"
          :to="`/images?at=${one.image}`"
          >Look inside the copy</RouterLink
        >
      </template>
      <template v-else-if="v.laid.disks.length">
        <h2 class="head">
          {{ v.laid.disks.length }}
          {{ isSet ? (v.laid.disks.length === 1 ? 'disk' : 'disks') : 'volumes' }}
        </h2>
        <p v-if="!isSet" class="mb-3 text-sm text-slate">
          The largest first, each onto the first that takes it.
        </p>
        <p v-else class="mb-3 text-sm text-slate">
          <Why
            :sum="v.laid.leastBecause"
            :text="
              v.laid.least === v.laid.disks.length
                ? 'no fewer would do'
                : `by their lengths at least ${v.laid.least} are needed`
            "
          />
        </p>
        <DiskSet v-model:shown="shown" :crossing="v" />
        <IntoLibrary
          v-if="v.carried && kind?.library"
          class="mt-4 border-t border-rule pt-3"
          :crossing="v"
        />
      </template>
      <p v-else class="text-slate">What the files go to fills here.</p>
      <OnTheMachine
        v-if="v.laid.menus.length"
        class="mt-4 border-t border-rule pt-3"
        :crossing="v"
        @machine="(machine) => choose.mutate(() => ({ machine }))"
        @names="nameAll"
      />
      <ForJobs v-if="v.carried && v.image" class="mt-4 border-t border-rule pt-3" :crossing="v" />
      <TriedCard
        v-if="v.carried && v.laid.over"
        class="mt-4 border-t border-rule pt-3"
        :crossing="v"
      />
      <p v-if="v.laid.over" class="mt-4 border-t border-rule pt-3 text-sm">
        <RouterLink
          class="text-river underline"
          :to="{ path: '/reckoner', query: { files: v.laid.over, kib: kib } }"
          >How long by line, floppies or card</RouterLink
        >
      </p>
      <section v-if="folders.length" class="mt-4">
        <h2 class="head">Pages of a browser</h2>
        <p
          v-for="f in folders"
          :key="`${f.disk}/${f.name}`"
          class="flex justify-between gap-2 text-sm"
        >
          <span class="figure truncate"
            >{{ spread ? `${v.laid.disks[f.disk]?.name}: ` : '' }}{{ f.name || 'root' }}</span
          >
          <span class="figure shrink-0">{{ f.entries }} entries, {{ f.pages }} pages</span>
        </p>
      </section>
    </aside>
    <TextDialog
      v-if="texts"
      :crossing="v"
      @close="texts = false"
      @change="choose.mutate(() => ({ text: $event }))"
    />
    <BringMore
      v-if="bringing"
      :sent="sending.sent.value"
      :share="sending.share.value"
      :sending="bring.isPending.value"
      :errand="fetching.errand.value"
      :wrong="
        bring.isError.value || fetch.isError.value
          ? sentence(bring.error.value ?? fetch.error.value)
          : ''
      "
      @close="bringing = false"
      @halt="sending.halt()"
      @stop="fetching.stop()"
      @chosen="bring.mutate($event, { onSuccess: () => (bringing = false) })"
      @image="fetch.mutate($event, { onSuccess: () => (bringing = false) })"
    />
  </div>
</template>
