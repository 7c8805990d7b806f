<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask } from '../api/client'
import { useKeys } from './keys'

/** Finds a job or an image by any part of its words, and lines of all logbooks by whole words. */
const text = ref('')
const at = ref(0)
const box = ref<HTMLInputElement | null>(null)
const router = useRouter()
const wanted = computed(() => text.value.trim().toLowerCase())
const images = useQuery({
  queryKey: ['images'],
  queryFn: () => ask(api.GET('/api/images')),
  enabled: computed(() => wanted.value !== ''),
})

const words = refDebounced(wanted, 200)
const jobs = useQuery({
  queryKey: computed(() => ['jobs', 'find', words.value]),
  queryFn: () => ask(api.GET('/api/jobs', { params: { query: { find: words.value, size: 12 } } })),
  enabled: computed(() => words.value !== ''),
})
const lines = useQuery({
  queryKey: computed(() => ['find-log', words.value]),
  queryFn: () => ask(api.GET('/api/log', { params: { query: { words: words.value } } })),
  enabled: computed(() => words.value.length > 2),
})

const found = computed(() => {
  if (!wanted.value) return []
  const has = (...words: string[]) => words.some((w) => w.toLowerCase().includes(wanted.value))
  return [
    ...(jobs.data.value?.rows ?? [])
      .filter((j) => has(j.machine, j.fault, j.medium))
      .map((j) => ({ text: j.machine, note: j.where, to: `/jobs/${j.id}` })),
    ...(images.data.value ?? [])
      .filter((i) => has(i.name, i.sha256, i.origin))
      .map((i) => ({ text: i.name, note: `image, ${i.size}`, to: `/images?at=${i.id}` })),
    ...(lines.data.value ?? []).map((h) => ({
      text: h.line.text,
      note: `${h.machine}, ${h.line.stationName}, ${h.line.author}`,
      to: `/jobs/${h.job}/${h.line.station || 1}?line=${h.line.id}`,
    })),
  ].slice(0, 12)
})

useKeys([
  {
    key: '/',
    says: 'find a job, an image or a line of the logbook',
    does: () => box.value?.focus(),
  },
])

function go(to: string): void {
  text.value = ''
  box.value?.blur()
  void router.push(to)
}

function enter(): void {
  const hit = found.value[at.value]
  if (hit) go(hit.to)
}
</script>

<template>
  <div class="relative hidden w-[260px] shrink-0 md:block">
    <input
      ref="box"
      v-model="text"
      class="field pr-8"
      placeholder="Find a job, image, log line …"
      aria-label="Find a job, an image or a line of the logbook"
      @input="at = 0"
      @keydown.enter="enter"
      @keydown.down.prevent="at = Math.min(at + 1, found.length - 1)"
      @keydown.up.prevent="at = Math.max(at - 1, 0)"
      @keydown.esc="((text = ''), box?.blur())"
    />
    <span class="key absolute top-2 right-2">/</span>
    <ul v-if="wanted" class="sheet absolute z-30 mt-1 w-[340px] py-1">
      <li v-if="!found.length" class="px-3 py-1 text-slate">Nothing has these words.</li>
      <li v-for="(f, i) in found" :key="f.to">
        <button
          type="button"
          class="block w-full px-3 py-1 text-left"
          :class="i === at ? 'bg-lampwash' : ''"
          @mousedown.prevent="go(f.to)"
        >
          <strong class="block truncate">{{ f.text }}</strong>
          <span class="block truncate text-sm text-slate">{{ f.note }}</span>
        </button>
      </li>
    </ul>
  </div>
</template>
