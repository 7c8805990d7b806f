<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, ask, sentence } from '../api/client'
import Why from '../because/Why.vue'

/** Which road is the shortest for a set of files: the line, floppies, or the card (T-9). */
const route = useRoute()
const from = (name: string, otherwise: number) => Number(route.query[name]) || otherwise
const q = reactive({
  files: from('files', 120),
  kib: from('kib', 4096),
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
/** A part of the files over two stand-ins that speak the protocol. */
const trouble = ref<'NONE' | 'SOFTWARE_FLOW' | 'SEVEN_BITS'>('NONE')
const TROUBLES = {
  NONE: 'nothing else wrong',
  SOFTWARE_FLOW: 'XON and XOFF are on',
  SEVEN_BITS: 'seven bits a byte',
} as const
const rehearse = useMutation({
  mutationFn: () =>
    ask(
      api.GET('/api/reckoner/roads/rehearsal', {
        params: {
          query: {
            kib: Math.max(1, Math.min(64, Math.floor(q.kib) || 1)),
            protocol: q.protocol,
            rate: q.rate,
            errors: q.errors,
            trouble: trouble.value,
          },
        },
      }),
    ),
})
watch([() => ({ ...q }), trouble], () => rehearse.reset())
/** What is typed at both ends, asked for once it is opened. */
const typing = reactive({ open: false, end: 'dos', toMachine: true })
const stepsQuery = computed(() => ({
  protocol: q.protocol,
  rate: q.rate,
  end: typing.end,
  toMachine: typing.toMachine,
}))
const steps = useQuery({
  queryKey: computed(() => ['line-steps', stepsQuery.value]),
  queryFn: () => ask(api.GET('/api/reckoner/roads/steps', { params: { query: stepsQuery.value } })),
  enabled: computed(() => typing.open),
  placeholderData: (old) => old,
})
const sheet = computed(
  () =>
    '/api/reckoner/roads/steps.pdf?' +
    new URLSearchParams(Object.entries(stepsQuery.value).map(([k, x]) => [k, String(x)])),
)
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
      <form
        class="mt-3 flex flex-wrap items-end gap-2 border-t border-rule pt-3"
        @submit.prevent="rehearse.mutate()"
      >
        <label class="text-sm text-slate"
          >rehearse the line with<select v-model="trouble" class="field h-9 py-0!">
            <option v-for="(says, key) in TROUBLES" :key="key" :value="key">{{ says }}</option>
          </select></label
        >
        <button class="plain h-9 py-0!" :disabled="rehearse.isPending.value">Rehearse it</button>
        <span class="text-sm text-slate">64 KiB at most, between two stand-ins</span>
      </form>
      <p v-if="rehearse.isError.value" class="mt-2 text-brick" role="alert">
        ✕ {{ sentence(rehearse.error.value) }}
      </p>
      <div v-if="rehearse.data.value" class="mt-2" role="status">
        <p v-if="rehearse.data.value.line.whole" class="text-moss">
          ✓ went over whole in {{ rehearse.data.value.time }} of the line’s time,
          {{ rehearse.data.value.line.repeats }} of {{ rehearse.data.value.line.blocks }} blocks
          said again
        </p>
        <p v-else class="text-brick">✕ {{ rehearse.data.value.line.explains }}</p>
        <p v-if="rehearse.data.value.line.fill" class="text-sm text-slate">
          It comes out {{ rehearse.data.value.line.fill }} B longer, filled with 1A: XMODEM does not
          carry a length.
        </p>
        <ol
          v-if="rehearse.data.value.line.log.length"
          class="figure mt-1 max-h-28 overflow-y-auto text-sm text-slate"
          tabindex="0"
          aria-label="What the receiver noted"
        >
          <li v-for="(l, i) in rehearse.data.value.line.log" :key="i">{{ l }}</li>
        </ol>
      </div>
      <details
        class="mt-3 border-t border-rule pt-3"
        @toggle="typing.open = ($event.target as HTMLDetailsElement).open"
      >
        <summary class="cursor-pointer font-bold">What to type at both ends</summary>
        <p v-if="steps.isError.value" class="mt-1 text-brick" role="alert">
          ✕ {{ sentence(steps.error.value) }}
        </p>
        <template v-if="steps.data.value">
          <div class="mt-2 flex flex-wrap items-end gap-2">
            <label class="text-sm text-slate"
              >the machine is<select v-model="typing.end" class="field h-9 py-0!">
                <option v-for="e in steps.data.value.ends" :key="e.key" :value="e.key">
                  {{ e.words }}
                </option>
              </select></label
            >
            <label class="text-sm text-slate"
              >files go<select v-model="typing.toMachine" class="field h-9 py-0!">
                <option :value="true">to the machine</option>
                <option :value="false">from the machine</option>
              </select></label
            >
            <a class="plain h-9 py-0! leading-9!" :href="sheet" target="_blank">Sheet to print</a>
          </div>
          <ol class="mt-2 list-decimal space-y-1 pl-5 text-[15px]">
            <li v-for="(s, i) in steps.data.value.steps" :key="i">
              <span class="text-slate">{{ s.there ? 'at the machine' : 'at the desktop' }}</span>
              {{ s.does }}
              <code v-if="s.types" class="figure block text-sm">{{ s.types }}</code>
            </li>
          </ol>
        </template>
      </details>
    </div>
  </section>
</template>
