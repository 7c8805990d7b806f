<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { ref } from 'vue'
import { api, ask, sentence } from '../api/client'

const open = ref('controller-pc')
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const system = (key: string) =>
  catalogue.data.value?.systems.find((s) => s.key === key)?.title ?? key
</script>

<template>
  <section>
    <h1 class="mb-3 text-xl font-bold">Machines</h1>
    <p v-if="catalogue.isError.value" class="text-brick" role="alert">
      ✕ {{ sentence(catalogue.error.value) }}
    </p>
    <div class="space-y-2">
      <article v-for="m in catalogue.data.value?.machines" :key="m.key" class="sheet">
        <button
          type="button"
          class="flex w-full items-baseline gap-4 px-4 py-3 text-left"
          :aria-expanded="open === m.key"
          @click="open = open === m.key ? '' : m.key"
        >
          <strong class="text-lg">{{ m.name }}</strong>
          <span class="figure text-sm text-slate">{{ m.key }}</span>
        </button>
        <div v-if="open === m.key" class="grid gap-4 border-t border-rule p-4 lg:grid-cols-2">
          <div>
            <p>{{ m.matters }}</p>
            <h2 class="head mt-3">Firmware</h2>
            <p v-for="f in m.firmwares" :key="f.key" class="mt-1">
              {{ f.name }}
              <span class="figure text-sm text-slate">pegs {{ f.pegs.join(', ') }}</span>
              <span v-if="f.typeTable.length" class="figure block text-sm text-slate"
                >{{ f.typeTable.length }} drive types</span
              >
              <span v-if="f.obtain" class="block text-sm text-plum">◆ {{ f.obtain }}</span>
            </p>
          </div>
          <div>
            <h2 class="head">Systems</h2>
            <p>{{ m.systems.map(system).join(' · ') }}</p>
            <h2 class="head mt-3">Buses</h2>
            <p>{{ m.buses.join(' · ') }}</p>
            <h2 class="head mt-3">At the bench</h2>
            <p>
              {{ m.inspection.length }} points before power, {{ m.fit.length }} steps to fit,
              {{ m.prove.length }} to prove
            </p>
          </div>
        </div>
      </article>
    </div>
  </section>
</template>
