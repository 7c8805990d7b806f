<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, ask, Problem, sentence, type Machine } from '../api/client'
import SchemaForm, { type Shape } from '../parts/SchemaForm.vue'
import { useTrail } from '../shed/crumbs'

/** Changes a profile that was made here, section by section; the core says what is wrong with it. */
const route = useRoute()
const router = useRouter()
const queries = useQueryClient()
const show = useTrail()
const key = computed(() => String(route.params.key))
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const schema = useQuery({
  queryKey: ['machine-schema'],
  queryFn: async () => (await fetch(new Request('/api/machines/schema'))).json() as Promise<Shape>,
  staleTime: Infinity,
})
const known = computed(() => catalogue.data.value?.machines.find((m) => m.key === key.value))
const own = computed(() => catalogue.data.value?.own.find((o) => o.key === key.value))
const profile = ref<Record<string, unknown> | null>(null)
const section = ref('name')
watch(
  known,
  (m) => {
    if (m && !profile.value)
      profile.value = JSON.parse(JSON.stringify(m)) as Record<string, unknown>
    show([
      { text: 'Machines', to: '/machines' },
      { text: m?.name ?? key.value, to: '' },
    ])
  },
  { immediate: true },
)
const sections = computed(() =>
  Object.entries(schema.data.value?.properties ?? {}).filter(([k]) => k !== 'key'),
)
const shape = computed(() => schema.data.value?.properties?.[section.value])
const save = useMutation({
  mutationFn: () => {
    if (!own.value) throw new Problem('Profiles that ship stay as they are. Clone this one first.')
    return ask(
      api.PUT('/api/machines/{key}', {
        params: { path: { key: key.value }, query: { version: own.value.version } },
        body: { text: JSON.stringify(profile.value) },
      }),
    )
  },
  onSuccess: () => queries.invalidateQueries(),
})
const remove = useMutation({
  mutationFn: () =>
    ask(api.DELETE('/api/machines/{key}', { params: { path: { key: key.value } } })),
  onSuccess: async () => {
    await queries.invalidateQueries()
    void router.push('/machines')
  },
})
const count = (k: string) => {
  const v = profile.value?.[k as keyof Machine]
  return Array.isArray(v) ? String(v.length) : ''
}
</script>

<template>
  <p v-if="catalogue.isError.value" class="sheet p-5 text-brick" role="alert">
    ✕ {{ sentence(catalogue.error.value) }}
  </p>
  <div v-else-if="catalogue.data.value && !known" class="sheet p-8" role="alert">
    <h1 class="text-lg font-bold">There is no machine “{{ key }}”</h1>
    <p class="mt-1">It may have been taken away, or its key is written otherwise.</p>
    <RouterLink class="next mt-4 inline-block" to="/machines">To the machines</RouterLink>
  </div>
  <p v-else-if="!profile || !shape" class="sheet p-5 text-slate">Reading the profile …</p>
  <div v-else class="grid items-start gap-3 lg:grid-cols-[250px_1fr]">
    <nav class="sheet p-2" aria-label="Sections of the profile">
      <button
        v-for="[k, s] in sections"
        :key="k"
        type="button"
        class="flex w-full justify-between rounded px-3 py-1 text-left text-[15px]"
        :class="section === k ? 'bg-lampwash font-bold' : ''"
        :aria-current="section === k"
        @click="section = k"
      >
        {{ s.title }} <span class="figure text-sm text-slate">{{ count(k) }}</span>
      </button>
    </nav>
    <section class="sheet p-5">
      <div class="flex items-baseline justify-between">
        <h1 class="text-xl font-bold">{{ shape.title }}</h1>
        <span class="figure text-sm text-slate">{{ key }}</span>
      </div>
      <SchemaForm
        :key="section"
        v-model="profile[section]"
        :shape="shape"
        class="mt-3"
        :aria-label="typeof profile[section] === 'object' ? undefined : shape.title"
      />
      <p v-if="save.isError.value" class="mt-3 text-brick" role="alert">
        ✕ {{ sentence(save.error.value) }}
      </p>
      <p v-if="remove.isError.value" class="mt-3 text-brick" role="alert">
        ✕ {{ sentence(remove.error.value) }}
      </p>
      <p v-if="save.isSuccess.value" class="mt-3 text-moss" role="status">✓ Kept.</p>
      <div class="mt-4 flex gap-3">
        <button type="button" class="next" :disabled="save.isPending.value" @click="save.mutate()">
          Keep the profile
        </button>
        <a class="plain" :href="`/api/machines/${key}/file`" download>Export, JSON</a>
        <button type="button" class="plain" @click="remove.mutate()">Take it out</button>
      </div>
    </section>
  </div>
</template>
