<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { count } from '../shed/units'
import { STATES, type Crossing, type Row } from './useCrossing'

/** One list: each file as it is now and as it will lie, with what it takes and what changes. */
const props = defineProps<{ crossing: Crossing; rows: Row[] }>()
const emit = defineEmits<{
  name: [from: string, to: string]
  leave: [from: string, out: boolean]
}>()
const MOST = 400
const naming = ref('')
const typed = ref('')
const body = ref<HTMLElement | null>(null)
const set = computed(() => props.crossing.laid.disks.length > 1)

async function edit(row: Row): Promise<void> {
  if (props.crossing.carried || row.disk < 0) return
  naming.value = row.from
  typed.value = row.to
  await nextTick()
  body.value?.querySelector('input')?.select()
}
function done(row: Row, back?: EventTarget | null): void {
  if (naming.value !== row.from) return
  naming.value = ''
  // Whoever types goes on from the row; whoever clicked elsewhere is there.
  ;(back as HTMLElement | null)?.closest<HTMLElement>('[data-row]')?.focus()
  const wanted = typed.value.trim()
  if (wanted && wanted !== row.to) emit('name', row.from, wanted)
}
function leaveIt(row: Row, field: EventTarget | null): void {
  typed.value = row.to
  done(row, field)
}
/** Up and down go from row to row; Enter names, Delete leaves out. */
function move(e: KeyboardEvent, row: Row): void {
  const step = e.key === 'ArrowDown' ? 1 : e.key === 'ArrowUp' ? -1 : 0
  if (step) {
    const all = [...(body.value?.querySelectorAll<HTMLElement>('[data-row]') ?? [])]
    all[all.indexOf(e.currentTarget as HTMLElement) + step]?.focus()
  } else if (e.key === 'Enter' && e.target === e.currentTarget) void edit(row)
  else if (e.key === 'Delete') emit('leave', row.from, row.state !== 'LEFT')
  else return
  e.preventDefault()
}
/** All that is to be said of a file, what it is first. */
function says(r: Row): string[] {
  const faulty = r.fault ? `▲ ${r.kind}, but ${r.fault}` : r.kind
  const how = r.starts === 'NOT' ? `✕ ${r.how}` : ''
  const disk = set.value && r.disk >= 0 ? `onto ${props.crossing.laid.disks[r.disk].name}` : ''
  const twin = r.twin ? `same bytes as ${r.twin}` : ''
  return [disk, r.state === 'STAYS' ? r.says : '', faulty, how, takes(r)]
    .concat(r.state === 'STAYS' ? '' : r.says, twin, r.about)
    .filter(Boolean)
}
function takes(r: Row): string {
  if (r.disk < 0) return ''
  const unit = props.crossing.laid.unit
  return `${count(r.units)} ${r.units === 1 ? unit : `${unit}s`}`
}
</script>

<template>
  <div class="min-h-0 overflow-y-auto" role="region" aria-label="Files that go over">
    <table class="w-full table-fixed text-[15px]">
      <thead>
        <tr class="text-left text-sm text-slate">
          <th class="w-8"><span class="sr-only">what becomes of it</span></th>
          <th class="py-1 font-normal">as it is now</th>
          <th class="w-8"><span class="sr-only">becomes</span></th>
          <th class="font-normal">as it will lie</th>
          <th class="w-24 pr-3 text-right font-normal max-sm:hidden">size</th>
          <th class="w-[32%] font-normal max-md:hidden">takes, and what changes</th>
          <th v-if="!crossing.carried" class="w-16"><span class="sr-only">leave out</span></th>
        </tr>
      </thead>
      <tbody ref="body">
        <tr
          v-for="r in rows.slice(0, MOST)"
          :key="r.from"
          data-row
          tabindex="0"
          class="border-t border-rule focus:bg-lampwash"
          @keydown="move($event, r)"
        >
          <td class="pl-2" :class="STATES[r.state].tone">
            <span aria-hidden="true">{{ STATES[r.state].mark }}</span><span class="sr-only">{{
              STATES[r.state].says
            }}</span>
          </td>
          <td class="truncate py-1.5" :title="r.from">{{ r.from }}</td>
          <td class="text-river" aria-hidden="true">⤳</td>
          <td class="figure truncate pr-2" :title="r.to">
            <input
              v-if="naming === r.from"
              v-model="typed"
              class="field figure h-8 py-0!"
              :aria-label="`Name for ${r.from}`"
              @keydown.enter.stop.prevent="done(r, $event.target)"
              @keydown.esc.stop="leaveIt(r, $event.target)"
              @keydown.delete.stop
              @keydown.up.stop
              @keydown.down.stop
              @blur="done(r)"
            />
            <button
              v-else-if="r.to && !crossing.carried"
              type="button"
              tabindex="-1"
              class="max-w-full truncate hover:text-river"
              :aria-label="`Name ${r.to} otherwise`"
              @click="edit(r)"
            >
              {{ r.to }}
            </button>
            <template v-else>{{ r.to || '–' }}</template>
          </td>
          <td class="figure pr-3 text-right whitespace-nowrap max-sm:hidden">{{ r.size }}</td>
          <td
            class="py-1 text-sm leading-snug max-md:hidden"
            :class="r.state === 'STAYS' ? 'text-brick' : 'text-slate'"
            :title="says(r).join(' · ')"
          >
            <span class="line-clamp-2">{{ says(r).join(' · ') }}</span>
          </td>
          <td v-if="!crossing.carried" class="pr-2 text-right text-sm">
            <button
              type="button"
              tabindex="-1"
              class="text-river underline"
              :aria-label="r.state === 'LEFT' ? `Take ${r.from} along` : `Leave ${r.from} out`"
              @click="emit('leave', r.from, r.state !== 'LEFT')"
            >
              {{ r.state === 'LEFT' ? 'take' : 'leave' }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="rows.length > MOST" class="border-t border-rule p-2 text-sm text-slate">
      The first {{ count(MOST) }} of {{ count(rows.length) }}; narrow them by a part of the name.
    </p>
  </div>
</template>
