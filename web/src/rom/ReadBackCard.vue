<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, asItIs, ask, sentence, type Schemas } from '../api/client'
import { hex, type Rom } from './useRoms'

/** What a chip reads after it was programmed, and what the pattern of its differences says. */
const props = defineProps<{ rom: Rom }>()
const emit = defineEmits<{ kept: [] }>()
type Trouble = Schemas['StandInWish']['trouble']
const TROUBLES: Record<Trouble, string> = {
  NONE: 'nothing wrong',
  STUCK: 'a leg without contact',
  EXCHANGED: 'two address lines exchanged',
  UNERASED: 'erased too briefly',
  CUT: 'stopped half way',
}
const trouble = ref<Trouble>('STUCK')
const blank = ref('')
const path = computed(() => ({ params: { path: { id: props.rom.id } } }))
const back = useMutation({
  mutationFn: async (from: File | Trouble) => {
    blank.value = ''
    if (typeof from === 'string') {
      const stand = api.POST('/api/roms/{id}/stand-in', {
        ...path.value,
        body: { trouble: from },
      })
      return { r: await ask(stand), standIn: true }
    }
    const r = await ask(api.POST('/api/roms/{id}/read-back', { ...path.value, ...asItIs(from) }))
    emit('kept')
    return { r, standIn: false }
  },
})
const over = useMutation({
  mutationFn: (file: File) =>
    ask(api.POST('/api/roms/{id}/over', { ...path.value, ...asItIs(file) })),
  onSuccess: (e) => {
    back.reset()
    blank.value = e.sentence
  },
})
const r = computed(() => back.data.value?.r)
const fine = computed(() => r.value?.pattern === 'IDENTICAL')
const error = computed(() => back.error.value ?? over.error.value)
function file(e: Event, then: (f: File) => void): void {
  const input = e.target as HTMLInputElement
  if (input.files?.[0]) then(input.files[0])
  input.value = ''
}
</script>

<template>
  <section class="sheet p-4">
    <h2 class="head">Read back after programming</h2>
    <div aria-live="polite">
      <template v-if="r">
        <p v-if="back.data.value?.standIn" class="text-sm text-lamp">
          ○ a stand-in, no real chip: nothing is kept of it
        </p>
        <p class="font-bold" :class="fine ? 'text-moss' : 'text-brick'">
          {{ fine ? '✓ identical' : `✕ ${r.differing} bytes differ` }}
        </p>
        <p class="mt-1">{{ r.sentence }}</p>
        <table v-if="r.differences.length" class="figure mt-1 text-sm">
          <caption class="sr-only">
            The first differences
          </caption>
          <tbody>
            <tr v-for="d in r.differences.slice(0, 4)" :key="d.at">
              <td class="pr-4">{{ hex(d.at) }}</td>
              <td class="pr-4">is {{ hex(d.is, 2) }}</td>
              <td>should {{ hex(d.should, 2) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="r.todo" class="mt-1">→ {{ r.todo }}</p>
        <p v-for="a in r.also" :key="a" class="mt-1 text-sm text-slate">or: {{ a }}</p>
        <p v-if="!fine" class="mt-1 text-sm text-slate">{{ r.out }} other patterns ruled out</p>
      </template>
      <p v-else-if="blank" class="mt-1">{{ blank }}</p>
      <p v-else class="mt-1 text-[15px] text-slate">
        Bring what the programmer reads: it is held against this image byte by byte.
      </p>
      <p v-if="error" class="mt-2 text-brick" role="alert">✕ {{ sentence(error) }}</p>
    </div>
    <div class="mt-3 flex flex-wrap gap-2">
      <label class="plain cursor-pointer focus-within:outline-2"
        >Bring a read-back
        <input type="file" class="sr-only" @change="file($event, (f) => back.mutate(f))" />
      </label>
      <label class="plain cursor-pointer focus-within:outline-2"
        >Is this chip blank?
        <input type="file" class="sr-only" @change="file($event, (f) => over.mutate(f))" />
      </label>
    </div>
    <div class="mt-2 flex flex-wrap items-center gap-2 text-sm">
      <label
        >no programmer at hand: a stand-in with
        <select v-model="trouble" class="field mt-1 h-9 py-0!">
          <option v-for="(words, t) in TROUBLES" :key="t" :value="t">{{ words }}</option>
        </select></label
      >
      <button type="button" class="plain self-end" @click="back.mutate(trouble)">Try it</button>
    </div>
    <ul v-if="rom.readings.length" class="mt-2 divide-y divide-rule text-sm">
      <li v-for="x in rom.readings.slice(0, 3)" :key="x.id" class="py-1">
        <span :class="x.pattern === 'IDENTICAL' ? 'text-moss' : 'text-brick'">{{
          x.pattern === 'IDENTICAL' ? '✓' : '✕'
        }}</span>
        <span class="figure"> {{ x.at.slice(0, 16).replace('T', ' ') }}</span> {{ x.sentence }}
      </li>
    </ul>
  </section>
</template>
