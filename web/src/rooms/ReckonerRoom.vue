<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, reactive } from 'vue'
import { api, ask, sentence } from '../api/client'
import Why from '../because/Why.vue'
import { count, inUnit, useUnit } from '../shed/units'
import RoadsCard from '../parts/RoadsCard.vue'
import Sounding from '../sounding/Sounding.vue'

/** The program's calculations by themselves, with no job. */
const unit = useUnit()
const q = reactive({ machine: 'controller-pc', firmware: '', system: '', sectors: 15_625_216 })
const place = reactive({ heads: 16, sectors: 63, cylinder: 0, head: 1, sector: 1 })
const size = reactive({ bytes: 32_000_000 })
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const machine = computed(() => catalogue.data.value?.machines.find((m) => m.key === q.machine))
const pegs = useQuery({
  queryKey: computed(() => ['pegs', { ...q }]),
  queryFn: () => ask(api.GET('/api/reckoner/pegs', { params: { query: { ...q } } })),
  placeholderData: (old) => old,
})
const where = useQuery({
  queryKey: computed(() => ['place', { ...place }]),
  queryFn: () => ask(api.GET('/api/reckoner/place', { params: { query: { ...place } } })),
})
const bytes = useQuery({
  queryKey: computed(() => ['size', size.bytes]),
  queryFn: () => ask(api.GET('/api/reckoner/size', { params: { query: { bytes: size.bytes } } })),
})
function pick(): void {
  q.firmware = ''
  q.system = ''
}
</script>

<template>
  <div class="grid min-h-full grid-cols-[minmax(0,1fr)] gap-3 lg:grid-cols-[1fr_340px]">
    <Sounding
      v-if="pegs.data.value"
      title="How far does the machine reach?"
      :total="q.sectors"
      :strata="[]"
      :pegs="pegs.data.value.pegs"
      :binding="pegs.data.value.binding"
      :reach="pegs.data.value.reach"
      :geometry="pegs.data.value.geometry"
    />
    <section v-else class="sheet p-4 text-brick" role="alert">
      ✕ {{ sentence(pegs.error.value ?? 'Reckoning …') }}
    </section>
    <div class="space-y-3">
      <section class="sheet space-y-2 p-4">
        <h1 class="head">Machine and card</h1>
        <select v-model="q.machine" class="field" aria-label="Machine" @change="pick">
          <option v-for="m in catalogue.data.value?.machines" :key="m.key" :value="m.key">
            {{ m.name }}
          </option>
        </select>
        <select v-model="q.firmware" class="field" aria-label="Firmware">
          <option value="">its usual firmware</option>
          <option v-for="f in machine?.firmwares" :key="f.key" :value="f.key">{{ f.name }}</option>
        </select>
        <select v-model="q.system" class="field" aria-label="System">
          <option value="">its usual system</option>
          <option v-for="s in machine?.systems" :key="s" :value="s">
            {{ catalogue.data.value?.systems.find((x) => x.key === s)?.title }}
          </option>
        </select>
        <label class="block text-sm text-slate"
          >sectors of the card
          <input v-model.number="q.sectors" type="number" min="1" class="field figure"
        /></label>
        <p v-if="pegs.data.value" class="figure text-2xl font-bold">
          <Why
            :sum="pegs.data.value.binding.because"
            :text="inUnit(pegs.data.value.reach, unit.unit, pegs.data.value.geometry)"
          />
        </p>
      </section>
      <section class="sheet p-4">
        <h2 class="head">C/H/S to LBA</h2>
        <div class="mt-1 grid grid-cols-5 gap-1">
          <label v-for="(_, k) in place" :key="k" class="text-sm text-slate"
            >{{ k
            }}<input v-model.number="place[k]" type="number" min="0" class="field figure px-1!"
          /></label>
        </div>
        <p v-if="where.data.value" class="figure mt-2 text-2xl font-bold">
          <Why :sum="where.data.value.because" :text="count(where.data.value.lba)" />
        </p>
        <p v-else class="mt-2 text-brick" role="alert">✕ {{ sentence(where.error.value ?? '') }}</p>
      </section>
      <section class="sheet p-4">
        <h2 class="head">Label and truth</h2>
        <label class="text-sm text-slate"
          >bytes<input v-model.number="size.bytes" type="number" min="0" class="field figure"
        /></label>
        <p v-if="bytes.data.value" class="figure mt-2 text-lg">
          <Why
            :sum="bytes.data.value.because"
            :text="`${bytes.data.value.decimal} = ${bytes.data.value.binary}`"
          />
        </p>
      </section>
    </div>
    <RoadsCard class="lg:col-span-full" />
  </div>
</template>
