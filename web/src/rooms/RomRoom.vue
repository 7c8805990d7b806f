<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { computed, reactive, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, ask, sentence, type Schemas } from '../api/client'
import Why from '../because/Why.vue'
import CompareCard from '../rom/CompareCard.vue'
import ForMachine from '../rom/ForMachine.vue'
import MemoryMap from '../rom/MemoryMap.vue'
import ReadBackCard from '../rom/ReadBackCard.vue'
import RomColumn from '../rom/RomColumn.vue'
import RomHex from '../rom/RomHex.vue'
import RunCard from '../rom/RunCard.vue'
import { useRom } from '../rom/useRoms'
import { useTrail } from '../shed/crumbs'

/** One image of a ROM: what it is, where it goes, what its chip reads, what it does when it runs. */
const route = useRoute()
const router = useRouter()
const { rom, path, keep, place, write, forJob, queries, key } = useRom(() =>
  Number(route.params.id),
)
const v = computed(() => rom.data.value)
const trail = useTrail()
watch(
  v,
  (now) =>
    trail([
      { text: 'ROM bench', to: '/roms' },
      { text: now?.name ?? '', to: '' },
    ]),
  { immediate: true },
)
const go = (id: number) => router.push(`/roms/${id}`)
const corrected = useMutation({
  mutationFn: () => ask(api.POST('/api/roms/{id}/corrected', path.value)),
  onSuccess: (view) => (keep(view), go(view.id)),
})
const wish = reactive<Schemas['ChipWish']>({ kilobits: 0, pad: 'FF' })
watch(
  () => v.value?.id,
  () => (wish.kilobits = v.value?.chips[0] ?? 0),
  { immediate: true },
)
const fitted = useMutation({
  mutationFn: () => ask(api.POST('/api/roms/{id}/fitted', { ...path.value, body: { ...wish } })),
  onSuccess: (view) => (keep(view), go(view.id)),
})
const split = useMutation({
  mutationFn: (ways: number) =>
    ask(api.POST('/api/roms/{id}/split', { ...path.value, body: { ways } })),
  onSuccess: () => {
    void queries.invalidateQueries({ queryKey: ['roms'] })
    return router.push('/roms')
  },
})
const error = computed(
  () =>
    corrected.error.value ??
    fitted.error.value ??
    split.error.value ??
    write.error.value ??
    forJob.error.value,
)
const wrong = computed(() => v.value?.facts.findings ?? [])
const mends = computed(() => wrong.value.some((f) => f.what.startsWith('The sum of')))
const MARK = { STOPS: '✕', WRONG: '▲', NOTE: '○' } as const
const TONE = { STOPS: 'text-brick', WRONG: 'text-brick', NOTE: 'text-slate' } as const
</script>

<template>
  <p v-if="rom.isPending.value" class="sheet p-6 text-slate">Reading the image …</p>
  <p v-else-if="rom.isError.value" class="sheet p-6 text-brick" role="alert">
    ✕ {{ sentence(rom.error.value) }}
  </p>
  <div v-else-if="v" :key="v.id" class="grid gap-3 lg:grid-cols-[1.3fr_1fr_0.9fr]">
    <section class="sheet self-start p-4">
      <div class="flex items-baseline justify-between gap-3">
        <h1 class="head">Sounding of the chip</h1>
        <span class="text-sm text-slate"
          >{{ v.facts.kilobits }} kbit<template v-if="v.madeFrom">
            · from {{ v.madeFrom }}</template
          >
        </span>
      </div>
      <div v-for="f in wrong" :key="f.what" class="mt-1 flex gap-2" :class="TONE[f.weight]">
        <span aria-hidden="true">{{ MARK[f.weight] }}</span>
        <div>
          <Why v-if="f.because.lines.length" :sum="f.because" :text="f.what" />
          <template v-else>{{ f.what }}</template>
          <span v-if="f.todo" class="block text-sm">→ {{ f.todo }}</span>
        </div>
      </div>
      <p v-if="v.facts.option && !wrong.length" class="mt-1 text-moss">
        ✓ A whole option ROM: its sum is 00, the firmware enters it.
      </p>
      <div v-if="mends" class="mt-2 flex flex-wrap items-center gap-3">
        <button type="button" class="next" @click="corrected.mutate()">
          Correct the last byte
        </button>
        <span class="text-sm text-slate">kept as a new image; the old one stays</span>
      </div>
      <RomColumn class="mt-2" :rom="v" />
      <p v-if="error" class="mt-2 text-brick" role="alert">✕ {{ sentence(error) }}</p>
      <div class="mt-2 flex flex-wrap items-end gap-2 text-sm">
        <form class="flex items-end gap-2" @submit.prevent="fitted.mutate()">
          <label
            >into a chip of
            <select v-model.number="wish.kilobits" class="field figure mt-1 h-9 py-0!">
              <option v-for="k in v.chips" :key="k" :value="k">{{ k }} kbit</option>
            </select></label
          >
          <label
            >the rest
            <select v-model="wish.pad" class="field mt-1 h-9 py-0!">
              <option value="FF">FF, stays erased</option>
              <option value="ZERO">00</option>
              <option value="REPEAT">again and again</option>
            </select></label
          >
          <button type="submit" class="plain shrink-0">Fit it</button>
        </form>
        <button type="button" class="plain" @click="split.mutate(2)">Split for two chips</button>
        <button type="button" class="plain" @click="split.mutate(4)">for four</button>
      </div>
      <p class="mt-2 text-sm">
        as a file:
        <a class="text-river underline" :href="`/api/roms/${v.id}/file?form=RAW`">bytes</a>,
        <a class="text-river underline" :href="`/api/roms/${v.id}/file?form=INTEL`"
          >hexadecimal, “:” records</a
        >,
        <a class="text-river underline" :href="`/api/roms/${v.id}/file?form=MOTOROLA`"
          >“S” records</a
        >
      </p>
      <p class="figure mt-1 text-[13px] break-all text-slate">
        SHA-256 {{ v.facts.sha256 }}, CRC-32 {{ v.facts.crc32 }}
      </p>
      <label class="mt-2 block text-sm"
        >label and where the original lies
        <input
          class="field mt-1"
          maxlength="2000"
          :value="v.note"
          placeholder="originals are read, labelled and kept unerased"
          @change="write.mutate({ note: ($event.target as HTMLInputElement).value })"
      /></label>
      <label v-if="v.facts.option" class="mt-2 block text-sm"
        >drives that this build serves
        <select
          class="field ml-1 h-9 w-auto! py-0!"
          :value="v.drives"
          @change="write.mutate({ drives: Number(($event.target as HTMLSelectElement).value) })"
        >
          <option :value="0">not said</option>
          <option v-for="n in 8" :key="n" :value="n">{{ n }}</option>
        </select></label
      >
    </section>
    <div class="space-y-3">
      <MemoryMap :rom="v" :error="place.error.value" @place="place.mutate($event)" />
      <CompareCard :rom="v" />
    </div>
    <div class="space-y-3">
      <ReadBackCard :rom="v" @kept="queries.invalidateQueries({ queryKey: key })" />
      <RunCard :rom="v" />
      <ForMachine :rom="v" @job="forJob.mutate($event)" />
    </div>
    <RomHex :rom="v" />
  </div>
</template>
