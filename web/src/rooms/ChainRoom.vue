<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch, watchEffect } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, ask, sentence } from '../api/client'
import Why from '../because/Why.vue'
import LampRow from '../lamps/LampRow.vue'
import { useCrumbs, useTrail } from '../shed/crumbs'
import { useKeys } from '../shed/keys'
import { useCardKinds } from '../parts/cards'
import { planDraft } from '../parts/planDraft'
import ToldList from '../parts/ToldList.vue'

/** From the machine's board to the card: every joint, other ways, and what that tells the plan. */
const PLAN = 5
const route = useRoute()
const router = useRouter()
const crumbs = useCrumbs()
const show = useTrail()
const queries = useQueryClient()
const id = computed(() => Number(route.params.id))
const machines = ref(1)
/** A joint of cards, "any", or as the plan's card is made; that as long as nobody chose. */
const picked = ref('')
const job = useQuery({
  queryKey: computed(() => ['job', id.value]),
  queryFn: () => ask(api.GET('/api/jobs/{id}', { params: { path: { id: id.value } } })),
})
const many = computed(() => Math.min(1000, Math.max(1, Math.round(machines.value) || 1)))
const plan = useQuery({
  queryKey: computed(() => ['plan', id.value]),
  queryFn: () => ask(api.GET('/api/jobs/{id}/plan', { params: { path: { id: id.value } } })),
})
const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
const kinds = useCardKinds()
const draft = planDraft(id)
const planned = computed(() => {
  const choice = draft.value ?? plan.data.value?.choice
  return media.data.value?.find((m) => m.id === choice?.cardId)
})
const card = computed(() =>
  picked.value === 'any' ? '' : picked.value || planned.value?.joint || '',
)
const asked = useQuery({
  queryKey: computed(() => ['chains', id.value, many.value, card.value]),
  queryFn: () =>
    ask(
      api.GET('/api/jobs/{id}/chains', {
        params: { path: { id: id.value }, query: { machines: many.value, card: card.value } },
      }),
    ),
  placeholderData: (before) => before,
})
const chains = computed(() => asked.data.value?.chains ?? [])
const chosen = ref('')
const chain = computed(
  () => chains.value.find((c) => c.key === chosen.value) ?? chains.value[0] ?? null,
)
const taken = useQuery({
  queryKey: computed(() => ['chain', id.value, planned.value?.id ?? 0]),
  queryFn: () =>
    ask(
      api.GET('/api/jobs/{id}/chain', {
        params: { path: { id: id.value }, query: { card: planned.value?.id ?? 0 } },
      }),
    ),
  placeholderData: (before) => before,
})
watch(
  () => taken.data.value?.key,
  (key) => (chosen.value = chosen.value || (key ?? '')),
  { immediate: true },
)
const take = useMutation({
  mutationFn: (key: string) =>
    ask(
      api.PUT('/api/jobs/{id}/chain', {
        params: { path: { id: id.value } },
        body: { version: job.data.value?.version ?? 0, key },
      }),
    ),
  onSettled: () => queries.invalidateQueries(),
})
const toBuy = computed(() => chain.value?.toBuy.length ?? 0)
watchEffect(() => {
  if (!job.data.value) return
  show([
    { text: 'Jobs', to: '/jobs' },
    { text: job.data.value.machine, to: `/jobs/${id.value}` },
    { text: 'Plan', to: `/jobs/${id.value}/${PLAN}` },
    { text: 'Chain', to: '' },
  ])
  crumbs.job = { id: id.value, name: job.data.value.machine, station: PLAN, stationName: 'Plan' }
})
function step(by: number): void {
  const at = chains.value.findIndex((c) => c.key === chain.value?.key)
  const next = chains.value[at + by]
  if (next) chosen.value = next.key
}
useKeys([
  { key: 'J', says: 'next way', does: () => step(1) },
  { key: 'K', says: 'the way before', does: () => step(-1) },
  { key: 'N', says: 'for one, for ten', does: () => (machines.value = many.value === 1 ? 10 : 1) },
  ...[...'1234567890'].map((key, i) => ({
    key,
    says: `station ${i + 1}`,
    does: () => void router.push(`/jobs/${id.value}/${i + 1}`),
  })),
])
</script>

<template>
  <p v-if="job.isError.value" class="sheet p-6 text-brick" role="alert">
    ✕ {{ sentence(job.error.value) }}
  </p>
  <p v-else-if="!job.data.value" class="sheet p-6 text-slate">Reading the job …</p>
  <div v-else class="flex min-h-full flex-col gap-3">
    <div class="flex shrink-0 flex-wrap items-stretch gap-4 lg:flex-nowrap">
      <div class="tag min-w-[190px] basis-[400px] border border-rule bg-sheet py-2 pr-4 pl-6">
        <h1 class="truncate text-lg font-bold">{{ job.data.value.machine }}</h1>
        <p class="truncate text-sm text-slate">{{ job.data.value.profileName }}</p>
        <p class="text-sm text-slate">from the board to the card</p>
      </div>
      <div class="flex min-w-[300px] grow items-center lg:min-w-[590px]">
        <LampRow :stations="job.data.value.stations" :job="id" :at="PLAN" />
      </div>
    </div>
    <div class="grid grid-cols-[minmax(0,1fr)] gap-3 lg:grid-cols-2">
      <section v-if="chain" class="sheet self-start p-5">
        <div class="flex flex-wrap items-baseline justify-between gap-x-4">
          <h2 class="head">Chain: every joint fits</h2>
          <span class="text-sm text-slate"
            >{{ chain.links.length }} joints ·
            {{ toBuy ? `${toBuy} of ${chain.links.length} to buy` : 'all of it lies here' }}</span
          >
        </div>
        <ol class="mt-3">
          <li class="w-64 border-2 border-slate px-3 py-1.5">
            <strong class="block">The board</strong>
            <span class="text-sm text-slate">{{ job.data.value.profileName }}</span>
          </li>
          <li v-for="l in chain.links" :key="l.piece">
            <div class="ml-32 flex items-center gap-3">
              <svg class="h-9 w-7 shrink-0 text-ink" viewBox="0 0 28 36" aria-hidden="true">
                <path
                  d="M14 0V13M4 13H24M4 23H24M14 23V36"
                  fill="none"
                  stroke="currentColor"
                  stroke-width="2.5"
                />
                <path
                  d="M9 13V18H19V13"
                  fill="none"
                  stroke="var(--color-moss)"
                  stroke-width="2.5"
                />
              </svg>
              <span class="text-sm text-moss">✓ <Why :sum="l.jointBecause" :text="l.joint" /></span>
            </div>
            <div class="flex flex-wrap items-center gap-x-4 gap-y-1">
              <div class="w-64 shrink-0 border-2 border-slate px-3 py-1.5">
                <strong class="block">{{ l.name }}</strong>
                <span class="text-sm text-slate">{{ l.facts || '\u00a0' }}</span>
              </div>
              <ToldList class="min-w-0 flex-1 basis-52 text-sm" :told="l.tells">
                <li :class="l.have >= many ? 'text-moss' : 'text-slate'">
                  {{
                    l.have >= many
                      ? `✓ ${l.have} in the drawer${l.lies ? `, ${l.lies}` : ''}`
                      : `· ${l.have ? `${l.have} here, ` : ''}${many - l.have} to buy`
                  }}
                </li>
              </ToldList>
            </div>
          </li>
        </ol>
      </section>
      <section v-else class="sheet self-start p-6" :aria-busy="asked.isPending.value">
        <p v-if="asked.isError.value" class="text-brick" role="alert">
          ✕ {{ sentence(asked.error.value) }}
        </p>
        <p v-else-if="asked.isPending.value" class="text-slate">Trying what fits together …</p>
        <template v-else>
          <h2 class="head text-brick">✕ No chain fits</h2>
          <p class="mt-2">{{ asked.data.value?.missing }}</p>
          <RouterLink class="plain mt-4 inline-block" to="/parts">To the parts drawer</RouterLink>
        </template>
      </section>
      <div class="space-y-3">
        <section class="sheet p-5">
          <div class="flex flex-wrap items-center justify-between gap-2">
            <h2 class="head">Ways, the cheapest first</h2>
            <span class="flex items-center gap-2 text-sm">
              <select
                :value="card"
                class="field w-44!"
                aria-label="Which kind of card"
                @change="picked = ($event.target as HTMLSelectElement).value || 'any'"
              >
                <option value="">any card</option>
                <option v-for="c in kinds" :key="c.key" :value="c.key">{{ c.name }}</option>
              </select>
              <label class="flex items-center gap-2"
                >each, for
                <input
                  v-model.number="machines"
                  type="number"
                  min="1"
                  max="1000"
                  class="field figure w-20!"
                  aria-label="For how many machines"
              /></label>
              <span class="key">N</span>
            </span>
          </div>
          <div class="mt-2 max-h-60 overflow-y-auto" role="radiogroup" aria-label="Ways">
            <label
              v-for="c in chains"
              :key="c.key"
              class="flex cursor-pointer items-baseline gap-2 border-t border-rule border-l-4 py-1.5 pr-1 pl-2 text-[15px] leading-snug has-[input:focus-visible]:outline-3 has-[input:focus-visible]:-outline-offset-3 has-[input:focus-visible]:outline-lamp"
              :class="c.key === chain?.key ? 'border-l-lamp bg-lamp/10' : 'border-l-transparent'"
            >
              <input v-model="chosen" type="radio" name="way" class="sr-only" :value="c.key" />
              <span class="min-w-0 flex-1">
                <strong :class="c.key === chain?.key ? '' : 'font-normal'">{{ c.name }}</strong>
                <span class="text-sm text-slate">
                  · {{ c.links.at(-1)?.name
                  }}{{ c.key === taken.data.value?.key ? ' · ✓ taken' : ''
                  }}{{ c.slots ? ` · ${c.slots} slot` : '' }}</span
                >
              </span>
              <span class="figure w-16 text-right"
                ><Why :sum="c.priceBecause" :text="c.priceText"
              /></span>
              <span class="figure w-18 text-right whitespace-nowrap">{{ c.minutes }} min</span>
              <span class="figure w-22 text-right">{{ c.reachText }}</span>
            </label>
          </div>
          <p v-if="asked.data.value?.more" class="mt-1 text-sm text-slate">
            and {{ asked.data.value.more }} more that cost more
          </p>
          <p v-if="!picked && planned?.joint" class="mt-1 text-sm text-slate">
            The card of the plan, {{ planned.name }}, is made for these.
          </p>
          <p class="mt-1 text-sm text-slate">
            Prices are those of the
            <RouterLink class="text-river underline" to="/parts">parts drawer</RouterLink>; what
            lies there is paid for.
          </p>
        </section>
        <section v-if="chain" class="sheet p-5">
          <div class="flex flex-wrap items-center justify-between gap-3">
            <h2 class="head">What the chain says</h2>
            <p
              v-if="chain.key === taken.data.value?.key"
              class="flex flex-wrap items-center gap-4 text-moss"
              role="status"
            >
              ✓ This chain is taken.
              <RouterLink class="next" :to="`/jobs/${id}/${PLAN}`">Back to the plan</RouterLink>
            </p>
            <p v-else class="flex flex-wrap items-center gap-3">
              <span class="text-sm text-slate">bounds go to Plan, settings to Fit</span>
              <button type="button" class="next" @click="take.mutate(chain.key)">
                Take this chain
              </button>
            </p>
          </div>
          <p v-if="take.isError.value" class="mt-2 text-brick" role="alert">
            ✕ {{ sentence(take.error.value) }}
          </p>
          <ToldList
            v-if="chain.key === taken.data.value?.key && taken.data.value.last.length"
            class="mt-1"
            :told="taken.data.value.last"
          />
          <ToldList class="mt-1 space-y-1" :told="chain.tells" />
        </section>
      </div>
    </div>
  </div>
</template>
