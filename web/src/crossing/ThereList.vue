<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { count } from '../shed/units'
import type { Crossing, There, ThereChange } from './useCrossing'

/** What is on the volume before anything comes: taken off, named otherwise, marked. */
const props = defineProps<{ crossing: Crossing; letters: string }>()
const emit = defineEmits<{ change: [changes: ThereChange[]] }>()
const MARKS = { r: 'read only', h: 'hidden', s: 'system', a: 'archive' } as const
const naming = ref('')
const typed = ref('')
const body = ref<HTMLElement | null>(null)
const changes = computed(() => props.crossing.choices.changes)
const rows = computed(() =>
  props.crossing.laid.there.filter((t) =>
    t.path.toLowerCase().includes(props.letters.toLowerCase()),
  ),
)
const of = (path: string, verb: ThereChange['verb']) =>
  changes.value.find((c) => c.path === path && c.verb === verb)
/** A folder that goes takes along what is in it. */
const gone = (path: string) =>
  changes.value.some(
    (c) => c.verb === 'REMOVE' && (c.path === path || path.startsWith(`${c.path}/`)),
  )
const marks = (t: There) => of(t.path, 'MARKS')?.to ?? t.marks

/** Each names a path as it is now, whatever else is changed. */
function put(path: string, verb: ThereChange['verb'], to: string | null): void {
  const rest = changes.value.filter((c) => c.path !== path || c.verb !== verb)
  emit('change', to === null ? rest : [...rest, { path, verb, to }])
}
async function edit(t: There): Promise<void> {
  naming.value = t.path
  typed.value = of(t.path, 'MOVE')?.to ?? t.path
  await nextTick()
  body.value?.querySelector<HTMLInputElement>('input[type=text]')?.select()
}
function done(t: There): void {
  if (naming.value !== t.path) return
  naming.value = ''
  const to = typed.value.trim()
  if (to) put(t.path, 'MOVE', to === t.path ? null : to)
}
function mark(t: There, letter: string): void {
  const now = marks(t)
  const next = [...'rhsa'].filter((x) => (x === letter) !== now.includes(x)).join('')
  put(t.path, 'MARKS', next === t.marks ? null : next)
}
</script>

<template>
  <div class="min-h-0 overflow-y-auto" role="region" aria-label="What is on the volume">
    <p v-if="!rows.length" class="p-4 text-slate">
      {{ letters ? 'No path has these letters.' : 'Nothing is on it yet.' }}
    </p>
    <table v-else class="w-full table-fixed text-[15px]">
      <thead>
        <tr class="text-left text-sm text-slate">
          <th class="w-8"><span class="sr-only">what becomes of it</span></th>
          <th class="py-1 font-normal">as it lies</th>
          <th class="w-8"><span class="sr-only">becomes</span></th>
          <th class="font-normal">as it will lie</th>
          <th class="w-24 pr-3 text-right font-normal">size</th>
          <th class="w-36 font-normal">marks</th>
          <th class="w-20"><span class="sr-only">take it off</span></th>
        </tr>
      </thead>
      <tbody ref="body">
        <tr v-for="t in rows" :key="t.path" class="border-t border-rule">
          <td class="pl-2">
            <span v-if="gone(t.path)" class="text-brick"
              ><span aria-hidden="true">✕</span><span class="sr-only">goes</span></span
            >
            <span v-else-if="of(t.path, 'MOVE') || of(t.path, 'MARKS')" class="text-lamp"
              ><span aria-hidden="true">▲</span><span class="sr-only">changes</span></span
            >
          </td>
          <td
            class="figure truncate py-1"
            :class="gone(t.path) ? 'text-slate line-through' : t.folder ? 'font-bold' : ''"
            :title="t.path"
          >
            {{ t.path }}{{ t.folder ? '/' : '' }}
          </td>
          <td class="text-river" aria-hidden="true">
            {{ of(t.path, 'MOVE') && !gone(t.path) ? '⤳' : '' }}
          </td>
          <td class="figure truncate">
            <input
              v-if="naming === t.path"
              v-model="typed"
              type="text"
              class="field figure h-8 py-0!"
              :aria-label="`New path for ${t.path}`"
              @keydown.enter="done(t)"
              @keydown.esc.stop="naming = ''"
              @blur="done(t)"
            />
            <button
              v-else-if="!gone(t.path)"
              type="button"
              class="max-w-full truncate hover:text-river"
              :class="of(t.path, 'MOVE') ? 'font-bold' : 'text-slate'"
              :aria-label="`Name ${t.path} otherwise`"
              @click="edit(t)"
            >
              {{ of(t.path, 'MOVE')?.to ?? t.path }}
            </button>
          </td>
          <td class="figure pr-3 text-right whitespace-nowrap">{{ t.size }}</td>
          <td>
            <span
              v-if="!gone(t.path)"
              class="flex gap-1"
              role="group"
              :aria-label="`Marks of ${t.path}`"
            >
              <button
                v-for="(says, letter) in MARKS"
                :key="letter"
                type="button"
                class="figure h-6 w-7 rounded border text-sm"
                :class="
                  marks(t).includes(letter)
                    ? 'border-ink font-bold text-ink'
                    : 'border-rule text-slate'
                "
                :aria-pressed="marks(t).includes(letter)"
                :aria-label="says"
                :title="says"
                @click="mark(t, letter)"
              >
                {{ letter }}
              </button>
            </span>
          </td>
          <td class="pr-2 text-right text-sm">
            <button
              v-if="!gone(t.path) || of(t.path, 'REMOVE')"
              type="button"
              class="text-river underline"
              :aria-label="of(t.path, 'REMOVE') ? `Keep ${t.path}` : `Take ${t.path} off`"
              @click="put(t.path, 'REMOVE', of(t.path, 'REMOVE') ? null : '')"
            >
              {{ of(t.path, 'REMOVE') ? 'keep' : 'take off' }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p
      v-if="crossing.laid.thereCount > crossing.laid.there.length"
      class="border-t border-rule p-2 text-sm text-slate"
    >
      The first {{ count(crossing.laid.there.length) }} of {{ count(crossing.laid.thereCount) }}.
    </p>
  </div>
</template>
