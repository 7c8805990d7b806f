<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, reactive, ref } from 'vue'
import { api, ask, sentence, type Schemas } from '../api/client'
import Patterns from '../sounding/Patterns.vue'
import { hex, type PlaceChange, type Rom } from './useRoms'

/** Where the machine sees it: what occupies the addresses, the free windows, and the jumpers. */
const props = defineProps<{ rom: Rom; error: unknown }>()
const emit = defineEmits<{ place: [PlaceChange] }>()
const FROM = 0xc0000
const TO = 0x100000
const TOP = 10
const HIGH = 300
const y = (at: number) => TOP + (HIGH * (at - FROM)) / (TO - FROM)

const carriers = useQuery({
  queryKey: ['carriers'],
  queryFn: () => ask(api.GET('/api/roms/carriers')),
})
const carrier = computed(() => carriers.data.value?.find((c) => c.key === props.rom.place.carrier))
const free = computed(() => props.rom.windows.filter((w) => !w.with))
const chosen = computed(() => props.rom.windows.find((w) => w.start === props.rom.place.window))
/** Only what the carrier decodes can be taken, where it has jumpers at all. */
const offered = computed(() =>
  carrier.value?.windows.length
    ? props.rom.windows.filter((w) =>
        carrier.value?.windows.some((s) => parseInt(s.start, 16) === w.start),
      )
    : props.rom.windows,
)
const takes = (at: number) => emit('place', () => ({ window: at }))
const sitsIn = (key: string) => emit('place', () => ({ carrier: key }))
const same = (a: Schemas['Occupied'], b: Schemas['Occupied']) =>
  a.name === b.name && a.start === b.start && a.length === b.length
const takeOut = (o: Schemas['Occupied']) =>
  emit('place', (now) => ({ occupied: now.occupied.filter((x) => !same(x, o)) }))
const adding = ref(false)
const more = reactive({ name: '', start: 'D0000', size: 64 })
function add(): void {
  const start = parseInt(more.start, 16)
  const one = {
    name: more.name,
    start: Number.isNaN(start) ? 0 : start,
    length: more.size * 1024,
  }
  emit('place', (now) => ({ occupied: [...now.occupied, one] }))
  adding.value = false
  more.name = ''
}
</script>

<template>
  <section class="sheet p-4">
    <h2 class="head">Where the machine sees it</h2>
    <svg
      :viewBox="`0 0 340 ${HIGH + 20}`"
      class="mt-1 w-full"
      role="img"
      :aria-label="`Addresses C0000 to FFFFF: ${rom.place.occupied.map((o) => `${o.name} at ${hex(o.start, 5)}`).join(', ')}; ${free.length} windows free`"
    >
      <Patterns />
      <rect x="70" :y="TOP" width="110" :height="HIGH" fill="var(--sheet)" stroke="var(--slate)" />
      <g v-for="(o, i) in rom.place.occupied.filter((x) => x.start >= FROM)" :key="o.name + i">
        <rect
          x="70"
          :y="y(o.start)"
          width="110"
          :height="Math.max(2, y(o.start + o.length) - y(o.start))"
          :fill="o.start === 0xc0000 || o.start === 0xf0000 ? 'url(#dots)' : 'url(#level)'"
          stroke="var(--slate)"
        />
        <text x="60" :y="y(o.start) + 11" text-anchor="end" class="figure fill-slate text-[13px]">
          {{ hex(o.start, 5) }}
        </text>
        <text x="190" :y="y(o.start + o.length / 2) + 5" class="fill-slate text-[13.5px]">
          {{ o.name }}
        </text>
      </g>
      <g v-if="chosen" :class="chosen.with ? 'text-brick' : 'text-lamp'">
        <rect
          x="68"
          :y="y(chosen.start)"
          width="114"
          :height="Math.max(6, y(chosen.start + chosen.length) - y(chosen.start))"
          fill="var(--lampfill)"
          stroke="currentColor"
          stroke-width="2"
        />
        <text x="190" :y="y(chosen.start) + 8" fill="currentColor" class="text-[13.5px] font-bold">
          {{ chosen.with ? '✕' : '◆' }} {{ hex(chosen.start, 5) }} for this one
        </text>
      </g>
    </svg>
    <div class="mt-2 grid grid-cols-2 gap-2">
      <label class="text-sm"
        >its window
        <select
          class="field figure mt-1 h-9 py-0!"
          :value="rom.place.window"
          @change="takes(Number(($event.target as HTMLSelectElement).value))"
        >
          <option :value="0">not chosen yet</option>
          <option v-for="w in offered" :key="w.start" :value="w.start">
            {{ hex(w.start, 5) }} {{ w.with ? `✕ ${w.with}` : '✓ free' }}
          </option>
        </select></label
      >
      <label class="text-sm"
        >its chip sits in
        <select
          class="field mt-1 h-9 py-0!"
          :value="rom.place.carrier"
          @change="sitsIn(($event.target as HTMLSelectElement).value)"
        >
          <option value="">not chosen yet</option>
          <option v-for="c in carriers.data.value ?? []" :key="c.key" :value="c.key">
            {{ c.name }}
          </option>
        </select></label
      >
    </div>
    <p v-if="rom.conflict" class="mt-2 text-brick">
      ✕ {{ hex(rom.place.window, 5) }} is taken by {{ rom.conflict }}.
    </p>
    <p v-else-if="chosen" class="mt-2 text-moss">
      ✓ {{ hex(chosen.start, 5) }} to {{ hex(chosen.start + chosen.length - 1, 5) }} is free.
    </p>
    <p v-if="!rom.windows.length" class="mt-2 text-slate">
      It is longer than any window; a socket of the board takes it.
    </p>
    <p v-if="error" class="mt-2 text-brick" role="alert">✕ {{ sentence(error) }}</p>
    <details class="mt-2 text-sm">
      <summary class="cursor-pointer text-river underline">what lies there already</summary>
      <ul class="mt-1 divide-y divide-rule">
        <li
          v-for="(o, i) in rom.place.occupied"
          :key="o.name + i"
          class="flex justify-between gap-2 py-1"
        >
          <span
            ><span class="figure">{{ hex(o.start, 5) }}, {{ o.length / 1024 }} KiB</span>
            {{ o.name }}</span
          >
          <button
            type="button"
            class="text-river underline"
            :aria-label="`take out ${o.name}`"
            @click="takeOut(o)"
          >
            take out
          </button>
        </li>
      </ul>
      <button v-if="!adding" type="button" class="plain mt-1" @click="adding = true">
        Something else lies there
      </button>
      <form v-else class="mt-2 grid grid-cols-[1fr_90px_80px] gap-2" @submit.prevent="add">
        <input v-model="more.name" class="field h-9" placeholder="what" maxlength="60" required />
        <input
          v-model="more.start"
          class="field figure h-9"
          pattern="[0-9A-Fa-f]{5}"
          aria-label="from, hexadecimal"
        />
        <input
          v-model.number="more.size"
          type="number"
          min="2"
          max="256"
          class="field figure h-9"
          aria-label="KiB"
        />
        <button type="submit" class="plain col-span-3">Put it in</button>
      </form>
    </details>
  </section>
  <section v-if="carrier" class="sheet p-4">
    <h2 class="head">
      {{ rom.place.window ? `Jumpers for ${hex(rom.place.window, 5)}` : carrier.name }}
    </h2>
    <div v-if="rom.jumpers" class="mt-2 flex flex-wrap items-center gap-x-5 gap-y-2">
      <svg
        :viewBox="`0 0 ${carrier.jumpers.length * 38} 78`"
        :width="carrier.jumpers.length * 38"
        height="78"
        role="img"
        :aria-label="`closed: ${rom.jumpers.tested.join(', ') || 'none'}`"
      >
        <g v-for="(j, i) in carrier.jumpers" :key="j">
          <rect
            :x="i * 38 + 5"
            y="2"
            width="26"
            height="52"
            fill="var(--sheet)"
            stroke="var(--slate)"
          />
          <rect
            :x="i * 38 + 10"
            :y="rom.jumpers.tested.includes(j) ? 7 : 29"
            width="16"
            height="20"
            :fill="rom.jumpers.tested.includes(j) ? 'var(--lampfill)' : 'var(--rule)'"
            stroke="var(--slate)"
          />
          <text :x="i * 38 + 18" y="72" text-anchor="middle" class="figure fill-ink text-[12px]">
            {{ j }}
          </text>
        </g>
      </svg>
      <p>
        <span v-if="rom.jumpers.print.join() !== rom.jumpers.tested.join()" class="block text-brick"
          >▲ the print says {{ rom.jumpers.print.join(' ') || 'none' }}</span
        >
        <strong class="block text-moss"
          >✓ tested: {{ rom.jumpers.tested.join(' ') || 'none closed' }}</strong
        >
      </p>
    </div>
    <p class="mt-2 text-[15px] text-plum">◆ {{ carrier.facts }}</p>
    <p v-if="!carrier.kilobits.includes(rom.facts.kilobits)" class="mt-1 text-sm text-lamp">
      ▲ It takes chips of {{ carrier.kilobits.join(', ') }} kbit; this image needs one of
      {{ rom.facts.kilobits }}.
    </p>
  </section>
</template>
