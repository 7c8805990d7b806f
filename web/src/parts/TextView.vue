<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence } from '../api/client'
import { count } from '../shed/units'

/** The beginning of a file: as text in the code page it was written in, or as a picture. */
const props = defineProps<{ image: number; volume: number; path: string; within?: string }>()
const emit = defineEmits<{ close: [] }>()
const pages = ['437', '850', '1252', '8859-1', '8859-15', 'utf-8']
const page = ref(localStorage.getItem('shed.page') ?? '437')
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
            in: props.within ?? '',
          },
        },
      }),
    ),
  enabled: computed(() => !picture.value),
})

function choose(e: Event): void {
  page.value = (e.target as HTMLSelectElement).value
  localStorage.setItem('shed.page', page.value)
}
</script>

<template>
  <div class="rounded border border-rule bg-paper p-3">
    <div class="flex flex-wrap items-center gap-3">
      <strong class="figure min-w-0 grow truncate">{{ path }}</strong>
      <label v-if="!picture" class="text-sm"
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
    <pre v-else class="figure mt-2 max-h-56 overflow-auto text-sm whitespace-pre-wrap">{{
      text.data.value?.text
    }}</pre>
    <p v-if="text.data.value && !text.data.value.whole" class="text-sm text-slate">
      the first 64 KiB of {{ count(text.data.value.bytes) }} bytes
    </p>
  </div>
</template>
