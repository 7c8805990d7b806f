<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, ask, sentence, type Schemas } from '../api/client'
import { useKeys } from '../shed/keys'
import { count } from '../shed/units'

/**
 * Any byte of an image, however large: a window of lines that is moved over it, with the name of
 * what lies there and of the field under the cursor.
 */
const props = defineProps<{ image: number; sectors: number }>()
const WIDE = 16
const LINES = 16
const SECTOR = 512
/** Sectors that are asked for at once; the window lies within two of them. */
const BLOCK = 8
const ASKED = 2 * BLOCK

const bytes = computed(() => props.sectors * SECTOR)
const lastTop = computed(() => Math.max(0, bytes.value / WIDE - LINES))
/** The first line that is shown. */
const top = ref(0)
/** The byte under the cursor. */
const at = ref(0)
const typed = ref('0')
const sector = computed(() => Math.floor(at.value / SECTOR))
watch(sector, (s) => (typed.value = String(s)))

const block = computed(() => Math.floor((top.value * WIDE) / SECTOR / BLOCK) * BLOCK)
// While the window is dragged along, only where it rests is read.
const start = refDebounced(block, 60)
const rows = useQuery({
  queryKey: computed(() => ['sectors', props.image, start.value]),
  queryFn: () =>
    ask(
      api.GET('/api/images/{id}/sectors', {
        params: { path: { id: props.image }, query: { start: start.value, count: ASKED } },
      }),
    ),
  placeholderData: (before) => before,
})
const known = computed(() => new Map(rows.data.value?.map((r) => [r.lba, r])))
const here = computed(() => known.value.get(sector.value))
const field = computed(() => {
  const byte = at.value % SECTOR
  return here.value?.fields.find((f) => byte >= f.at && byte < f.at + f.length)
})
const value = computed(() => {
  const f = field.value
  if (!f || !here.value || f.length > 4) return ''
  let n = 0
  for (let i = f.length - 1; i >= 0; i--) n = n * 256 + byteOf(here.value, f.at + i)
  return count(n)
})

interface Line {
  at: number
  sector: number
  row?: Schemas['SectorRow']
}

const lines = computed(() => {
  const out: Line[] = []
  for (let i = 0; i < LINES; i++) {
    const from = (top.value + i) * WIDE
    if (from >= bytes.value) break
    const s = Math.floor(from / SECTOR)
    out.push({ at: from, sector: s, row: known.value.get(s) })
  }
  return out
})

function byteOf(r: Schemas['SectorRow'], i: number): number {
  return parseInt(r.hex.slice(i * 2, i * 2 + 2), 16)
}

function hex(l: Line, k: number): string {
  const i = (l.at % SECTOR) + k
  return l.row ? l.row.hex.slice(i * 2, i * 2 + 2) : '··'
}

function text(l: Line): string {
  if (!l.row) return ''
  let out = ''
  for (let k = 0; k < WIDE; k++) {
    const b = byteOf(l.row, (l.at % SECTOR) + k)
    out += b >= 0x20 && b < 0x7f ? String.fromCharCode(b) : '·'
  }
  return out
}

function inField(l: Line, k: number): boolean {
  const f = field.value
  const i = (l.at % SECTOR) + k
  return !!f && l.sector === sector.value && i >= f.at && i < f.at + f.length
}

function scroll(line: number): void {
  top.value = Math.max(0, Math.min(lastTop.value, Math.round(line)))
}

/** Puts the cursor on a byte; the window follows only as far as it must. */
function put(byte: number): void {
  at.value = Math.max(0, Math.min(bytes.value - 1, byte))
  const line = Math.floor(at.value / WIDE)
  if (line < top.value) scroll(line)
  else if (line >= top.value + LINES) scroll(line - LINES + 1)
}

/** Both together, so that the cursor stays where it is in the window. */
function page(lineCount: number): void {
  const before = top.value
  scroll(top.value + lineCount)
  put(at.value + (top.value === before ? lineCount : top.value - before) * WIDE)
}

function go(): void {
  const s = Number(typed.value.replace(/\s/g, ''))
  if (!Number.isInteger(s)) return
  const whole = Math.max(0, Math.min(props.sectors - 1, s))
  at.value = whole * SECTOR
  typed.value = String(whole)
  scroll((whole * SECTOR) / WIDE)
}

const moves: Record<string, () => void> = {
  ArrowLeft: () => put(at.value - 1),
  ArrowRight: () => put(at.value + 1),
  ArrowUp: () => put(at.value - WIDE),
  ArrowDown: () => put(at.value + WIDE),
  Home: () => put(at.value - (at.value % WIDE)),
  End: () => put(at.value - (at.value % WIDE) + WIDE - 1),
}

function press(e: KeyboardEvent): void {
  const all = e.ctrlKey && (e.key === 'Home' || e.key === 'End')
  if (all) put(e.key === 'Home' ? 0 : bytes.value - 1)
  else if (moves[e.key] && !e.ctrlKey && !e.altKey && !e.metaKey) moves[e.key]()
  else return
  e.preventDefault()
}

useKeys([
  { key: 'PageDown', says: 'further into the image', does: () => page(LINES) },
  { key: 'PageUp', says: 'back in the image', does: () => page(-LINES) },
])
</script>

<template>
  <div>
    <form class="flex flex-wrap items-center gap-2" @submit.prevent="go">
      <button type="button" class="plain" :disabled="top === 0" @click="page(-LINES)">
        Up <span class="key">PgUp</span>
      </button>
      <label class="text-sm"
        >sector
        <input
          v-model="typed"
          class="field figure inline w-32!"
          inputmode="numeric"
          aria-label="Sector"
      /></label>
      <button class="plain">Go</button>
      <button type="button" class="plain" :disabled="top >= lastTop" @click="page(LINES)">
        Down <span class="key">PgDn</span>
      </button>
      <span class="figure text-sm text-slate">of {{ count(sectors) }}</span>
      <p class="min-w-0 grow text-right text-[15px]" aria-live="polite">
        <span class="figure text-slate">{{ here?.place }}</span>
        <template v-if="field">
          · <strong>{{ field.name }}</strong> <span class="figure">{{ value }}</span>
        </template>
      </p>
    </form>
    <p v-if="rows.isError.value" class="text-brick" role="alert">
      ✕ {{ sentence(rows.error.value) }}
    </p>
    <input
      type="range"
      class="mt-1 w-full"
      min="0"
      :max="lastTop"
      step="32"
      :value="top"
      aria-label="Depth in the image"
      @input="scroll(Number(($event.target as HTMLInputElement).value))"
    />
    <div
      class="mt-1 h-[330px] overflow-x-auto overflow-y-hidden rounded border border-rule px-2 py-1"
      tabindex="0"
      role="application"
      aria-label="Bytes in hexadecimal; arrow keys move the cursor"
      @keydown="press"
      @wheel.prevent="(e) => scroll(top + Math.sign(e.deltaY) * 4)"
    >
      <p
        v-for="l in lines"
        :key="l.at"
        class="figure text-[13px] leading-5 whitespace-pre"
        :class="l.at % SECTOR === 0 ? 'border-t border-rule' : ''"
      >
        <span class="inline-block w-[12ch] font-bold">{{
          l.at % SECTOR === 0 || l === lines[0] ? count(l.sector) : ''
        }}</span><span class="text-slate">{{ (l.at % SECTOR).toString(16).padStart(3, '0') }} </span
        ><span
          v-for="k in WIDE"
          :key="k"
          class="cursor-pointer"
          :class="[
            l.at + k - 1 === at ? 'rounded-sm outline-2 outline-lamp' : '',
            inField(l, k - 1) ? 'bg-lampfill/40' : '',
            hex(l, k - 1) === '00' ? 'text-slate' : '',
          ]"
          @click="at = l.at + k - 1"
          >{{ k === 9 ? '  ' : ' ' }}{{ hex(l, k - 1) }}</span
        ><span class="mx-[2ch] text-slate">{{ text(l) }}</span
        ><span v-if="l.at % SECTOR === 0" class="text-river">{{ l.row?.place }}</span>
      </p>
    </div>
  </div>
</template>
