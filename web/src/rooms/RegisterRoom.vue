<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Schemas } from '../api/client'
import CertificateLines from '../parts/CertificateLines.vue'

/** Every card: what is on it, of which machine, since when, and where it lies (Z-5). */
const queries = useQueryClient()
const register = useQuery({
  queryKey: ['register'],
  queryFn: () => ask(api.GET('/api/register')),
})
const certificates = useQuery({
  queryKey: ['certificates'],
  queryFn: () => ask(api.GET('/api/certificates')),
})
const letters = ref('')
const rows = computed(() => {
  const wanted = letters.value.trim().toLowerCase()
  return (register.data.value ?? []).filter((r) =>
    [r.name, r.serial, r.imageName, r.sha256, r.machine, r.system, r.lies].some((t) =>
      t.toLowerCase().includes(wanted),
    ),
  )
})
const known = computed(() => (register.data.value ?? []).filter((r) => r.image).length)
const put = useMutation({
  mutationFn: ({ card, lies }: { card: number; lies: string }) =>
    ask(api.PUT('/api/register/{card}', { params: { path: { card } }, body: { lies } })),
  onSettled: () => queries.invalidateQueries({ queryKey: ['register'] }),
})
function keep(r: Schemas['RegisterRow'], e: Event): void {
  const lies = (e.target as HTMLInputElement).value.trim()
  if (lies !== r.lies) put.mutate({ card: r.card, lies })
}
const day = (at: string) => at.slice(0, 10)
const SHORT = 16
</script>

<template>
  <section>
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h1 class="text-xl font-bold">Register of cards</h1>
      <span v-if="register.data.value" class="text-slate"
        >{{ known }} of {{ register.data.value.length }} hold a known image</span
      >
      <span class="grow" />
      <input
        v-model="letters"
        class="field w-56!"
        aria-label="Part of a card, image, machine or place"
        placeholder="card, image, machine, place"
      />
      <a class="plain" href="/api/register.csv">As a CSV file</a>
    </div>
    <p v-if="register.isError.value || put.isError.value" class="mb-3 text-brick" role="alert">
      ✕ {{ sentence(register.error.value ?? put.error.value) }}
    </p>
    <p v-if="register.isPending.value" class="sheet p-6 text-slate">Reading the register …</p>
    <div v-else-if="!register.data.value?.length" class="sheet p-8">
      <h2 class="text-lg font-bold">There are no cards yet</h2>
      <p>A card comes here when it is added; what is on it when it was written and read back.</p>
      <RouterLink class="next mt-4 inline-block" to="/media">To the media</RouterLink>
    </div>
    <p v-else-if="!rows.length" class="sheet p-6 text-slate">Nothing here has these letters.</p>
    <div v-else class="sheet">
      <table class="block w-full md:table">
        <thead class="hidden md:table-header-group">
          <tr class="text-left text-sm text-slate">
            <th class="px-4 pt-3 font-normal">card</th>
            <th class="pt-3 font-normal">holds, by its last read-back</th>
            <th class="pt-3 font-normal">machine and system</th>
            <th class="pt-3 font-normal">since</th>
            <th class="px-4 pt-3 font-normal">where it lies</th>
          </tr>
        </thead>
        <tbody class="block md:table-row-group">
          <tr
            v-for="r in rows"
            :key="r.card"
            class="block border-t border-rule px-4 py-2 align-top md:table-row md:p-0"
          >
            <td class="block md:table-cell md:w-80 md:px-4 md:py-2">
              <strong>{{ r.name }}</strong>
              <span class="figure block text-sm text-slate">{{ r.serial }} · {{ r.size }}</span>
            </td>
            <td class="block md:table-cell md:py-2 md:pr-3">
              <template v-if="r.image">
                <RouterLink class="text-river underline" :to="`/images?at=${r.image}`"
                  >✓ {{ r.imageName }}</RouterLink
                >
                <span class="figure block text-sm text-slate" :title="r.sha256"
                  >SHA-256 {{ r.sha256.slice(0, SHORT) }}…</span
                >
              </template>
              <span v-else class="text-slate">– nothing that is known</span>
            </td>
            <td class="block md:table-cell md:py-2 md:pr-3">
              <RouterLink v-if="r.job" class="text-river underline" :to="`/jobs/${r.job}`">{{
                r.machine
              }}</RouterLink>
              <span v-if="r.system" class="block text-sm text-slate">{{ r.system }}</span>
            </td>
            <td class="figure block text-sm md:table-cell md:w-28 md:py-2">
              {{ r.since ? day(r.since) : '' }}
            </td>
            <td class="block md:table-cell md:w-56 md:px-4 md:py-1.5">
              <input
                class="field"
                maxlength="200"
                :value="r.lies"
                :aria-label="`Where ${r.name} lies`"
                placeholder="where it lies"
                @keydown.enter="keep(r, $event)"
                @blur="keep(r, $event)"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <div v-if="certificates.data.value?.length" class="sheet mt-3 p-4">
      <h2 class="head">Wiped, with a certificate</h2>
      <div
        v-for="x in certificates.data.value"
        :key="x.id"
        class="mt-2 gap-4 border-t border-rule pt-2 md:flex"
      >
        <p class="md:w-76 md:shrink-0">
          <strong>{{ x.medium }}</strong>
          <span class="figure block text-sm text-slate">{{
            [x.serial, day(x.made)].filter(Boolean).join(' · ')
          }}</span>
        </p>
        <CertificateLines :certificate="x" />
      </div>
    </div>
  </section>
</template>
