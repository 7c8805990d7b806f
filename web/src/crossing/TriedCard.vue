<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, reactive } from 'vue'
import { answered } from '../api/answered'
import { api, ask, sentence } from '../api/client'
import { useSettings } from '../shed/settings'
import { useUndo } from '../shed/undo'
import type { Crossing } from './useCrossing'

/** What of the files was tried on the machine, and whether it started. */
const props = defineProps<{ crossing: Crossing }>()
const settings = useSettings()
const undo = useUndo()
const queries = useQueryClient()
const went = computed(() => props.crossing.laid.rows.filter((r) => r.disk >= 0).map((r) => r.to))
const tried = reactive({ path: went.value[0] ?? '', says: '' })
const take = (view: Crossing) => answered(queries, ['crossing', props.crossing.id], view)
const note = useMutation({
  mutationFn: (started: boolean) =>
    ask(
      api.POST('/api/crossings/{id}/tried', {
        params: { path: { id: props.crossing.id } },
        body: { ...tried, started, author: settings.author },
      }),
    ),
  onSuccess: (view) => {
    take(view)
    const last = view.tried.at(-1)!
    tried.says = ''
    undo.offer(`${last.path} is noted.`, async () =>
      take(
        await ask(
          api.DELETE('/api/crossings/{id}/tried/{number}', {
            params: { path: { id: props.crossing.id, number: last.id } },
          }),
        ),
      ),
    )
  },
})
</script>

<template>
  <section>
    <h2 class="head">Tried on the machine</h2>
    <ul v-if="crossing.tried.length" class="mt-1 text-sm">
      <li v-for="t in crossing.tried" :key="t.id">
        <span :class="t.started ? 'text-moss' : 'text-brick'">{{ t.started ? '✓' : '✕' }}</span>
        {{ ' ' }}<span class="figure">{{ t.path }}</span>
        {{ t.started ? 'started' : 'did not start'
        }}<template v-if="t.says">: {{ t.says }}</template>
      </li>
    </ul>
    <p v-else class="mt-1 text-sm text-slate">
      All of it was read back here. Whether one of them starts there only you can see.
    </p>
    <form class="mt-2 grid gap-2" @submit.prevent>
      <select v-model="tried.path" class="field figure h-9 py-0!" aria-label="File that was tried">
        <option v-for="p in went" :key="p">{{ p }}</option>
      </select>
      <input
        v-model.trim="tried.says"
        class="field h-9 py-0!"
        maxlength="400"
        placeholder="what was seen"
        aria-label="What was seen"
      />
      <div class="flex gap-2">
        <button
          type="button"
          class="plain h-9 py-0!"
          :disabled="note.isPending.value"
          @click="note.mutate(true)"
        >
          It started
        </button>
        <button
          type="button"
          class="plain h-9 py-0!"
          :disabled="note.isPending.value"
          @click="note.mutate(false)"
        >
          It did not
        </button>
      </div>
    </form>
    <p v-if="note.isError.value" class="mt-1 text-sm text-brick" role="alert">
      ✕ {{ sentence(note.error.value) }}
    </p>
  </section>
</template>
