<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, ask, sentence } from '../api/client'
import { useUndo } from '../shed/undo'
import { count } from '../shed/units'

/**
 * The beginning of a file: what it is, and its text in the code page that it was written in, as
 * the listing of a BASIC, or as a picture.
 */
const props = defineProps<{ image: number; volume: number; path: string; within?: string }>()
const emit = defineEmits<{ close: [] }>()
const pages = ['437', '850', '1252', '8859-1', '8859-15', 'utf-8']
const page = ref(localStorage.getItem('shed.page') ?? '437')
/** The token table by which BASIC is listed: 0 lists by numbers, below that it is shown as it lies. */
const tokens = ref(Number(localStorage.getItem('shed.tokens') ?? 0))
const tables = useQuery({
  queryKey: ['token-tables'],
  queryFn: () => ask(api.GET('/api/token-tables')),
})
const picture = computed(() => /\.(bmp|gif|jpe?g|png)$/i.test(props.path))
const source = computed(
  () =>
    `/api/images/${props.image}/picture?volume=${props.volume}&path=${encodeURIComponent(props.path)}&in=${encodeURIComponent(props.within ?? '')}`,
)
const text = useQuery({
  queryKey: computed(() => [
    'text',
    props.image,
    props.volume,
    props.path,
    props.within,
    page.value,
    tokens.value,
  ]),
  queryFn: () =>
    ask(
      api.GET('/api/images/{id}/text', {
        params: {
          path: { id: props.image },
          query: {
            volume: props.volume,
            path: props.path,
            page: page.value,
            tokens: tokens.value,
            in: props.within ?? '',
          },
        },
      }),
    ),
  enabled: computed(() => !picture.value && !tables.isPending.value),
  // Another way to read the same file keeps the place; another file never shows this one.
  placeholderData: (before, of) => (of?.queryKey[3] === props.path ? before : undefined),
})
/** One that was taken out since is not asked for again. */
watch(tables.data, (all) => {
  if (tokens.value > 0 && all && !all.some((t) => t.id === tokens.value)) tokens.value = 0
})
const queries = useQueryClient()
const undo = useUndo()
const again = () => queries.invalidateQueries({ queryKey: ['token-tables'] })
const bring = useMutation({
  mutationFn: async (file: File) => {
    const name = file.name.replace(/\.json$/i, '')
    return ask(api.POST('/api/token-tables', { body: { name, text: await file.text() } }))
  },
  onSuccess: async (t) => {
    await again()
    list(t.id)
  },
})
const table = computed(() => tables.data.value?.find((t) => t.id === tokens.value))
const remove = useMutation({
  mutationFn: (id: number) =>
    ask(api.DELETE('/api/token-tables/{id}', { params: { path: { id } } })),
  onSuccess: async (_, id) => {
    undo.offer(`${table.value?.name ?? 'The table'} is taken out.`, async () => {
      await ask(api.POST('/api/token-tables/{id}/back', { params: { path: { id } } }))
      await again()
      list(id)
    })
    await again()
  },
})
function list(by: number): void {
  tokens.value = by
  localStorage.setItem('shed.tokens', String(by))
}
function brought(e: Event): void {
  const field = e.target as HTMLInputElement
  if (field.files?.[0]) bring.mutate(field.files[0])
  field.value = ''
}

function choose(e: Event): void {
  page.value = (e.target as HTMLSelectElement).value
  localStorage.setItem('shed.page', page.value)
}
</script>

<template>
  <div class="rounded border border-rule bg-paper p-3">
    <div class="flex flex-wrap items-center gap-3">
      <strong class="figure min-w-0 grow truncate">{{ path }}</strong>
      <template v-if="text.data.value?.basic">
        <label class="text-sm"
          >tokens
          <select
            class="field inline w-auto! py-0!"
            :value="tokens"
            @change="list(Number(($event.target as HTMLSelectElement).value))"
          >
            <option :value="0">by their numbers</option>
            <option v-for="t in tables.data.value" :key="t.id" :value="t.id">
              {{ t.name }}, {{ count(t.words) }} words
            </option>
            <option :value="-1">not listed, as it lies</option>
          </select></label
        >
        <label
          class="cursor-pointer text-sm text-river underline focus-within:outline-2"
          title='JSON: {"tokens": {"80": "FOR", "FF81": "INT"}}, one or two bytes from 80 on'
          >bring a table<input
            type="file"
            accept=".json,application/json"
            class="sr-only"
            aria-label="Bring a token table"
            @change="brought"
        /></label>
        <button
          v-if="table"
          type="button"
          class="text-sm text-river underline"
          @click="remove.mutate(table.id)"
        >
          take it out
        </button>
      </template>
      <label v-if="!picture && (!text.data.value?.basic || tokens < 0)" class="text-sm"
        >code page
        <select class="field inline w-auto! py-0!" :value="page" @change="choose">
          <option v-for="p in pages" :key="p" :value="p">{{ p }}</option>
        </select></label
      >
      <button type="button" class="key" aria-label="Close the preview" @click="emit('close')">
        ✕
      </button>
    </div>
    <img v-if="picture" :src="source" :alt="path" class="mt-2 max-h-64" />
    <p v-else-if="text.isError.value" class="mt-2 text-brick" role="alert">
      ✕ {{ sentence(text.error.value) }}
    </p>
    <template v-else-if="text.data.value">
      <p v-if="text.data.value.kind" class="text-sm text-slate">
        {{ text.data.value.kind
        }}<template v-if="text.data.value.about">: {{ text.data.value.about }}</template>
        <span v-if="text.data.value.fault" class="text-lamp"
          >▲ but {{ text.data.value.fault }}</span
        >
      </p>
      <pre class="figure mt-2 max-h-56 overflow-auto text-sm whitespace-pre-wrap" tabindex="0">{{
        text.data.value.text
      }}</pre>
      <p v-if="!text.data.value.whole" class="text-sm text-slate">
        the first 64 KiB of {{ count(text.data.value.bytes) }} bytes
      </p>
    </template>
    <p v-if="bring.isError.value || remove.isError.value" class="mt-2 text-brick" role="alert">
      ✕ {{ sentence(bring.error.value ?? remove.error.value) }}
    </p>
  </div>
</template>
