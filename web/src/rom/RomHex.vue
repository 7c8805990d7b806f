<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { sentence } from '../api/client'
import { hex, type Rom } from './useRoms'

/** The bytes of an image, with the names of those that have one. */
const props = defineProps<{ rom: Rom }>()
const LINE = 16
const LINES = 24
const open = ref(false)
const at = ref(0)
const shown = ref(-1)
watch(
  () => props.rom.id,
  () => (at.value = 0),
)
const bytes = useQuery({
  queryKey: computed(() => ['rom-bytes', props.rom.id]),
  queryFn: async () => {
    const got = await fetch(`/api/roms/${props.rom.id}/file?form=RAW`)
    if (!got.ok) throw new Error('The bytes could not be read; look whether the shed still runs.')
    return new Uint8Array(await got.arrayBuffer())
  },
  enabled: open,
})
const fields = computed(() => props.rom.facts.fields)
const nameOf = (i: number) => fields.value.find((f) => i >= f.at && i < f.at + f.length)?.name ?? ''
const lines = computed(() => {
  const b = bytes.data.value
  if (!b) return []
  const out = []
  for (let from = at.value; from < Math.min(b.length, at.value + LINE * LINES); from += LINE) {
    out.push({ from, bytes: [...b.subarray(from, from + LINE)] })
  }
  return out
})
const last = computed(() =>
  Math.max(0, Math.floor((props.rom.facts.bytes - 1) / (LINE * LINES)) * LINE * LINES),
)
function page(step: number): void {
  at.value = Math.max(0, Math.min(last.value, at.value + step * LINE * LINES))
}
function go(to: number): void {
  at.value = Math.floor(to / LINE) * LINE
  shown.value = to
}
const letter = (b: number) => (b >= 0x20 && b < 0x7f ? String.fromCharCode(b) : '·')
</script>

<template>
  <details
    class="sheet p-4 lg:col-span-full"
    @toggle="open = ($event.target as HTMLDetailsElement).open"
  >
    <summary class="head cursor-pointer">Bytes, with the names of those that have one</summary>
    <p v-if="bytes.isError.value" class="mt-2 text-brick" role="alert">
      ✕ {{ sentence(bytes.error.value) }}
    </p>
    <div v-else-if="open" class="mt-2 grid gap-4 lg:grid-cols-[auto_1fr]">
      <div
        class="figure overflow-x-auto text-sm whitespace-pre outline-offset-2"
        tabindex="0"
        role="region"
        aria-label="Bytes of the image; PageUp and PageDown turn"
        @keydown.page-down.prevent="page(1)"
        @keydown.page-up.prevent="page(-1)"
        @keydown.home.prevent="at = 0"
        @keydown.end.prevent="at = last"
      >
        <p v-if="bytes.isPending.value" class="text-slate">Reading the bytes …</p>
        <div v-for="l in lines" :key="l.from">
          <span class="pr-2 text-slate">{{ hex(l.from) }}</span><span
            v-for="(b, i) in l.bytes"
            :key="i"
            class="px-[3px]"
            :class="[
              nameOf(l.from + i) ? 'bg-lampwash underline decoration-dotted' : '',
              shown === l.from + i ? 'outline-2 outline-lamp' : '',
            ]"
            :title="nameOf(l.from + i)"
            >{{ hex(b, 2) }}</span
          ><span class="pl-3 text-slate">{{ l.bytes.map(letter).join('') }}</span>
        </div>
      </div>
      <div class="text-sm">
        <div class="flex gap-2">
          <button type="button" class="plain h-8 py-0!" :disabled="at === 0" @click="page(-1)">
            earlier
          </button>
          <button type="button" class="plain h-8 py-0!" :disabled="at >= last" @click="page(1)">
            later
          </button>
        </div>
        <ul class="mt-2 max-h-72 overflow-y-auto">
          <li v-for="f in fields" :key="`${f.at} ${f.name}`">
            <button type="button" class="text-left hover:text-river" @click="go(f.at)">
              <span class="figure text-slate">{{ hex(f.at) }}</span> {{ f.name }}
            </button>
          </li>
        </ul>
        <p v-if="!fields.length" class="mt-2 text-slate">No byte of it has a name here.</p>
      </div>
    </div>
  </details>
</template>
