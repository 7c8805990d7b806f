<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, sentence } from '../api/client'
import { useUndo } from '../shed/undo'
import { count } from '../shed/units'

/** Crossings that wait, and those that went over with their lists of names. */
const queries = useQueryClient()
const router = useRouter()
const undo = useUndo()
const all = useQuery({ queryKey: ['crossings'], queryFn: () => ask(api.GET('/api/crossings')) })
const lines = computed(() => all.data.value ?? [])
const begin = useMutation({
  mutationFn: () =>
    ask(api.POST('/api/crossings', { body: { image: 0, volume: 0, disk: '720K' } })),
  onSuccess: (c) => {
    void queries.invalidateQueries({ queryKey: ['crossings'] })
    void router.push(`/crossings/${c.id}`)
  },
})
const stale = () => queries.invalidateQueries({ queryKey: ['crossings'] })
async function take(id: number, target: string): Promise<void> {
  const at = { params: { path: { id } } }
  await ask(api.DELETE('/api/crossings/{id}', at)).then(stale)
  undo.offer(`The crossing to ${target} is taken away.`, () =>
    ask(api.POST('/api/crossings/{id}/back', at)).then(stale),
  )
}
</script>

<template>
  <section class="sheet p-4">
    <div class="flex flex-wrap items-baseline justify-between gap-3">
      <h2 class="head">Files onto disks</h2>
      <button type="button" class="plain" :disabled="begin.isPending.value" @click="begin.mutate()">
        Split files over new disks
      </button>
    </div>
    <p v-if="!lines.length" class="text-sm text-slate">
      Onto a volume that is there they go from “Look inside”.
    </p>
    <ul class="mt-1 max-h-36 overflow-y-auto text-[15px]">
      <li v-for="c in lines" :key="c.id" class="flex items-baseline gap-3 py-0.5">
        <RouterLink
          class="min-w-0 truncate underline hover:text-river"
          :to="`/crossings/${c.id}`"
          >{{ c.target }}</RouterLink
        >
        <span class="grow" />
        <span class="shrink-0 text-sm" :class="c.carried ? 'text-moss' : 'text-slate'"
          >{{ count(c.files) }} {{ c.files === 1 ? 'file' : 'files' }},
          {{ c.carried ? '✓ carried' : '○ waits' }}</span
        >
        <button
          type="button"
          class="shrink-0 text-sm text-river underline"
          :aria-label="`Take away the crossing to ${c.target}`"
          @click="take(c.id, c.target)"
        >
          take away
        </button>
      </li>
    </ul>
    <p v-if="begin.isError.value || all.isError.value" class="text-brick" role="alert">
      ✕ {{ sentence(begin.error.value ?? all.error.value) }}
    </p>
  </section>
</template>
