<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, asItIs, ask, sentence, type Job } from '../../api/client'
import { staleJob } from '../../api/live'
import { count } from '../../shed/units'
import { useUndo } from '../../shed/undo'
import { dropped, type FromDesktop } from '../../parts/dropped'
import FileChooser from '../../parts/FileChooser.vue'
import SendingLine from '../../parts/SendingLine.vue'
import { useSending } from '../../parts/useSending'

/** Files from a desktop with their folders; what has come is known, so that a second try goes on. */
const props = defineProps<{ job: Job }>()
const MOST_ROWS = 300
const queries = useQueryClient()
const undo = useUndo()
const over = ref(false)
const at = computed(() => ({ path: { job: props.job.id } }))
const key = computed(() => ['files', props.job.id])
const there = useQuery({
  queryKey: key,
  queryFn: () => ask(api.GET('/api/jobs/{job}/files', { params: at.value })),
})
const again = () => queries.invalidateQueries({ queryKey: key.value })

const { sent, share, send, halt } = useSending((f) =>
  ask(
    api.PUT('/api/jobs/{job}/files', {
      params: { ...at.value, query: { path: f.path, time: f.time } },
      ...asItIs(f.file),
    }),
  ),
)
const bring = useMutation({
  mutationFn: async (from: FromDesktop[] | Promise<FromDesktop[]>) => {
    const known = new Map((there.data.value?.rows ?? []).map((r) => [r.path, r]))
    await send(
      (await from).filter((f) => {
        const k = known.get(f.path)
        return !k || k.bytes !== f.file.size || k.time !== f.time
      }),
    )
  },
  onSettled: () => staleJob(queries, props.job.id),
})
const remove = useMutation({
  mutationFn: (path: string) =>
    ask(api.DELETE('/api/jobs/{job}/files', { params: { ...at.value, query: { path } } })),
  onSuccess: (_, path) =>
    undo.offer(`${path} is out of the job.`, () =>
      ask(api.POST('/api/jobs/{job}/files/back', { params: { ...at.value, query: { path } } })),
    ),
  onSettled: again,
})
function drop(e: DragEvent): void {
  over.value = false
  if (e.dataTransfer) bring.mutate(dropped(e.dataTransfer))
}
</script>

<template>
  <section
    class="sheet flex min-h-0 flex-col p-5"
    :class="over ? 'border-lamp' : ''"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <h2 class="head">Files for the new card</h2>
    <p class="figure mt-1 text-3xl font-bold">{{ there.data.value?.sum ?? '…' }}</p>
    <p class="mt-1 text-slate">
      Drop files and folders here, or choose them. Folders, names and times are kept; what has come
      stays, so a second try goes on with what is missing.
    </p>
    <SendingLine v-if="bring.isPending.value" :sent="sent" :share="share" @halt="halt" />
    <FileChooser v-else class="mt-3" @chosen="bring.mutate($event)" />
    <p v-if="bring.isError.value" class="mt-2 text-brick" role="alert">
      ✕ {{ sentence(bring.error.value) }} What came before it is kept.
    </p>
    <ul v-if="there.data.value?.count" class="mt-3 min-h-0 divide-y divide-rule overflow-y-auto">
      <li
        v-for="f in there.data.value.rows.slice(0, MOST_ROWS)"
        :key="f.path"
        class="flex items-baseline gap-3 py-1 text-[15px]"
      >
        <span class="figure min-w-0 grow truncate" :title="f.path">{{ f.path }}</span>
        <span class="figure shrink-0">{{ count(f.bytes) }} B</span>
        <button
          type="button"
          class="shrink-0 text-sm text-river underline"
          :aria-label="`Take out ${f.path}`"
          @click="remove.mutate(f.path)"
        >
          take out
        </button>
      </li>
    </ul>
    <p v-if="(there.data.value?.count ?? 0) > MOST_ROWS" class="text-sm text-slate">
      and {{ count(there.data.value!.count - MOST_ROWS) }} more
    </p>
  </section>
</template>
