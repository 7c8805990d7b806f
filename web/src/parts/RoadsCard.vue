<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, reactive } from 'vue'
import { api, ask, sentence } from '../api/client'
import Why from '../because/Why.vue'

/** Which road is the shortest for a set of files: the line, floppies, or the card (T-9). */
const q = reactive({
  files: 120,
  kib: 4096,
  protocol: 'XMODEM_CRC' as const,
  rate: 9600,
  errors: 0,
  floppy: 'KB720' as const,
  minutes: 15,
})
const asked = useQuery({
  queryKey: computed(() => ['roads', { ...q }]),
  queryFn: () =>
    ask(
      api.GET('/api/reckoner/roads', {
        params: {
          query: {
            files: q.files,
            bytes: q.kib * 1024,
            protocol: q.protocol,
            rate: q.rate,
            errors: q.errors,
            floppy: q.floppy,
            cardOut: q.minutes * 60,
          },
        },
      }),
    ),
  placeholderData: (old) => old,
})
const v = computed(() => (asked.isError.value ? undefined : asked.data.value))
</script>

<template>
  <section class="sheet grid gap-x-8 gap-y-2 p-4 md:grid-cols-[340px_1fr]">
    <div class="grid grid-cols-2 content-start gap-2">
      <h2 class="head col-span-2">Roads and hours</h2>
      <label class="text-sm text-slate"
        >files<input v-model.number="q.files" type="number" min="1" class="field figure"
      /></label>
      <label class="text-sm text-slate"
        >KiB together<input v-model.number="q.kib" type="number" min="0" class="field figure"
      /></label>
      <label class="text-sm text-slate"
        >line, bits a second<select v-model.number="q.rate" class="field figure h-9 py-0!">
          <option v-for="r in [300, 1200, 2400, 9600, 19200, 38400, 57600, 115200]" :key="r">
            {{ r }}
          </option>
        </select></label
      >
      <label class="text-sm text-slate"
        >wrong bits in a million<input
          v-model.number="q.errors"
          type="number"
          min="0"
          max="1000"
          class="field figure"
      /></label>
      <label class="col-span-2 text-sm text-slate"
        >protocol<select v-model="q.protocol" class="field h-9 py-0!">
          <option v-for="p in v?.protocols ?? []" :key="p.key" :value="p.key">
            {{ p.words }}
          </option>
        </select></label
      >
      <label class="text-sm text-slate"
        >floppies<select v-model="q.floppy" class="field h-9 py-0!">
          <option v-for="f in v?.floppies ?? []" :key="f.key" :value="f.key">{{ f.words }}</option>
        </select></label
      >
      <label class="text-sm text-slate"
        >card out and in, min<input
          v-model.number="q.minutes"
          type="number"
          min="0"
          class="field figure"
      /></label>
    </div>
    <div>
      <p v-if="asked.isError.value" class="mt-2 text-brick" role="alert">
        ✕ {{ sentence(asked.error.value) }}
      </p>
      <ol v-if="v" class="mt-2 divide-y divide-rule">
        <li v-for="(r, i) in v.roads" :key="r.name" class="flex justify-between gap-3 py-1">
          <span :class="i ? '' : 'font-bold'"
            >{{ i ? '' : '✓ ' }}{{ r.name }}
            <span class="block text-sm font-normal text-slate">{{ r.note }}</span></span
          >
          <Why class="figure shrink-0 self-start" :sum="r.because" :text="r.time" />
        </li>
      </ol>
    </div>
  </section>
</template>
