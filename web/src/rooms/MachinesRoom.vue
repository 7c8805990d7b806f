<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watchEffect } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, ask, sentence, type Machine } from '../api/client'
import Why from '../because/Why.vue'
import { useCrumbs, useTrail } from '../shed/crumbs'
import { useKeys } from '../shed/keys'

const router = useRouter()
const queries = useQueryClient()
const route = useRoute()
const at = computed({
  get: () => String(route.query.at ?? 'controller-pc'),
  set: (key: string) => void router.replace({ query: { ...route.query, at: key } }),
})
const find = ref('')
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const all = computed(() => catalogue.data.value?.machines ?? [])
const shown = computed(() => {
  const f = find.value.trim().toLowerCase()
  return all.value.filter((m) =>
    [m.key, m.name, m.matters, ...m.buses, ...m.formats].join(' ').toLowerCase().includes(f),
  )
})
const m = computed(() => all.value.find((x) => x.key === at.value) ?? all.value[0])
const crumbs = useCrumbs()
const show = useTrail()
watchEffect(() => {
  crumbs.job = null
  show([
    { text: 'Machines', to: '/machines' },
    ...(m.value ? [{ text: m.value.name, to: '' }] : []),
  ])
})
/** What a ceiling of a firmware is called, from the list of ceilings of this machine. */
const ceiling = (rule: string) => limits.data.value?.find((p) => p.rule === rule)?.name ?? ''
const isOwn = (x: Machine) => catalogue.data.value?.own.some((o) => o.key === x.key) ?? false
const limits = useQuery({
  queryKey: computed(() => ['limits', m.value?.key]),
  queryFn: () =>
    ask(api.GET('/api/machines/{key}/limits', { params: { path: { key: m.value!.key } } })),
  enabled: computed(() => !!m.value),
})
const system = (key: string) =>
  catalogue.data.value?.systems.find((s) => s.key === key)?.title ?? key
const add = useMutation({
  mutationFn: (text: string) => ask(api.POST('/api/machines', { body: { text } })),
  onSuccess: async (p) => {
    await queries.invalidateQueries({ queryKey: ['machines'] })
    at.value = p.key
  },
})

function clone(from: Machine): void {
  const keys = new Set(all.value.map((x) => x.key))
  const base = from.key.slice(0, 34)
  let n = 2
  while (keys.has(`${base}-${n}`)) n++
  const copy = { ...from, key: `${base}-${n}`, name: `${from.name}, own ${n}` }
  add.mutate(JSON.stringify(copy), {
    onSuccess: (p) => void router.push(`/machines/${p.key}`),
  })
}

async function chosen(e: Event): Promise<void> {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  if (file) add.mutate(await file.slice(0, 2 << 20).text())
  input.value = ''
}

function move(by: number): void {
  const i = shown.value.findIndex((x) => x.key === m.value?.key)
  const next = shown.value[Math.max(0, Math.min(shown.value.length - 1, i + by))]
  if (next) at.value = next.key
}
useKeys([
  { key: 'J', says: 'next row', does: () => move(1) },
  { key: 'K', says: 'previous row', does: () => move(-1) },
])
</script>

<template>
  <p v-if="catalogue.isError.value" class="sheet p-5 text-brick" role="alert">
    ✕ {{ sentence(catalogue.error.value) }}
  </p>
  <div v-else class="grid h-full min-h-0 grid-cols-[minmax(0,1fr)] gap-3 lg:grid-cols-[330px_1fr]">
    <section class="sheet flex min-h-0 flex-col">
      <div class="flex gap-2 p-3">
        <input
          v-model="find"
          class="field"
          placeholder="Find a family"
          aria-label="Find a family"
        />
        <label class="plain shrink-0 cursor-pointer">
          Import
          <input type="file" accept=".json,application/json" class="sr-only" @change="chosen" />
        </label>
      </div>
      <p v-if="add.isError.value" class="px-3 pb-2 text-sm text-brick" role="alert">
        ✕ {{ sentence(add.error.value) }}
      </p>
      <ul class="min-h-0 overflow-y-auto">
        <li v-for="x in shown" :key="x.key">
          <button
            type="button"
            class="block w-full border-t border-l-4 border-t-rule px-3 py-1.5 text-left"
            :class="x.key === m?.key ? 'border-l-lampfill bg-lampwash' : 'border-l-transparent'"
            :aria-current="x.key === m?.key"
            @click="at = x.key"
          >
            <strong class="block truncate">{{ x.name }}</strong>
            <span class="figure text-sm text-slate"
              >{{ x.key }}<span v-if="isOwn(x)" class="text-lamp"> · made here</span></span
            >
          </button>
        </li>
        <li v-if="!shown.length" class="p-3 text-slate">No family has these words.</li>
      </ul>
    </section>
    <section v-if="m" class="sheet min-h-0 overflow-y-auto p-5">
      <div class="flex flex-wrap items-start justify-between gap-3">
        <div class="min-w-0 grow basis-80">
          <h1 class="text-xl font-bold">{{ m.name }}</h1>
          <p>{{ m.matters }}</p>
        </div>
        <div class="flex flex-wrap gap-2">
          <RouterLink v-if="isOwn(m)" :to="`/machines/${m.key}`" class="next">Edit</RouterLink>
          <button type="button" class="plain" @click="clone(m)">Clone</button>
          <a class="plain" :href="`/api/machines/${m.key}/file`" download>Export</a>
        </div>
      </div>
      <div class="mt-3 grid gap-x-6 gap-y-3 xl:grid-cols-2">
        <div>
          <h2 class="head">Its ceilings</h2>
          <table class="w-full text-[15px]">
            <tbody>
              <tr v-for="p in limits.data.value" :key="p.name" class="border-b border-rule">
                <td class="figure py-1 pr-2 text-sm whitespace-nowrap text-slate">
                  <abbr :title="p.because.reason" class="no-underline">{{ p.rule }}</abbr>
                </td>
                <td class="pr-2">
                  {{ p.name }}
                  <span class="text-sm text-slate">{{
                    p.scope === 'VOLUME' ? 'each volume' : 'the medium'
                  }}</span>
                </td>
                <td class="figure text-right whitespace-nowrap">
                  <Why :sum="p.because" :text="p.because.lines[p.because.lines.length - 1].text" />
                </td>
              </tr>
            </tbody>
          </table>
          <p v-for="f in m.firmwares" :key="f.key" class="mt-1 text-[15px]">
            {{ f.name }}
            <span class="figure text-sm text-slate"
              >{{ f.pegs.map((r) => `${r} ${ceiling(r)}`.trim()).join(' · ')
              }}{{ f.typeTable.length ? ` · ${f.typeTable.length} drive types` : '' }}</span
            >
            <span v-if="f.obtain" class="block text-sm text-plum">◆ {{ f.obtain }}</span>
          </p>
          <p v-if="m.systems.length" class="mt-1 text-[15px] text-slate">
            {{ m.systems.map(system).join(' · ') }}
          </p>
          <p v-else class="mt-1 text-[15px] text-slate">
            Its profile names no family that lays out cards; facts, limits and lists serve all the
            same.
          </p>
          <h2 class="head mt-3">How it starts</h2>
          <ol class="list-decimal pl-6 text-[15px]">
            <li v-for="l in m.bootChain" :key="l.key">
              {{ l.text }}
              <span v-if="l.needs" class="text-sm text-slate">— needs {{ l.needs }}</span>
            </li>
          </ol>
          <h2 class="head mt-3">Typed on the machine itself</h2>
          <p v-for="s in m.machineSteps" :key="s.does" class="text-[15px]">
            <span class="text-plum">◆ {{ s.does }}</span
            ><span v-if="s.types">: {{ s.types }}</span
            ><span v-if="s.answers" class="text-slate"> → {{ s.answers }}</span>
          </p>
        </div>
        <div>
          <h2 class="head">Joints and room</h2>
          <p class="text-[15px]">{{ [...m.buses, ...m.connectors].join(' · ') }}</p>
          <p v-for="s in m.slots" :key="s.name" class="text-[15px]">
            {{ s.name }}
            <span v-if="s.thickness" class="figure">{{ s.thickness / 10 }} mm</span>
            <span class="ml-1 text-sm text-slate">{{ s.note }}</span>
          </p>
          <p class="figure text-sm">
            {{ m.rails.map((r) => `${r.name} ± ${r.percent} %`).join(' · ') }}
          </p>
          <h2 class="head mt-3">Formats and names</h2>
          <p class="text-[15px]">{{ m.formats.join(' · ') }}. {{ m.nameRule }}</p>
          <h2 class="head mt-3">What must be there</h2>
          <ul class="list-disc pl-6 text-[15px]">
            <li v-for="p in m.prerequisites" :key="p.text">{{ p.text }}</li>
          </ul>
          <h2 class="head mt-3">At the bench</h2>
          <p class="text-[15px]">
            {{ m.inspection.length }} points before power,
            {{ m.inspection.filter((s) => s.gate).length }} of them gate ·
            {{ m.opening.length + m.fit.length }} steps to fit · {{ m.prove.length }} to prove
          </p>
          <p class="text-[15px]">
            Fasteners:
            {{
              m.fasteners.map((f) => `${f.where} ${f.count} × ${f.kind} ${f.length}`).join('; ') ||
              'none noted'
            }}
          </p>
          <h2 class="head mt-3">Parts in play</h2>
          <p class="text-[15px]">{{ m.parts.map((p) => p.name).join(' · ') }}</p>
        </div>
      </div>
    </section>
  </div>
</template>
