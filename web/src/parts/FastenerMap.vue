<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Picture, type Schemas } from '../api/client'

/** Numbered points on a picture, in the order in which they come out; going back in is the reverse. */
const props = defineProps<{ picture: Picture }>()
const emit = defineEmits<{ done: []; cancel: [] }>()
const marks = ref<Schemas['Mark'][]>(JSON.parse(JSON.stringify(props.picture.fasteners)))
const backwards = ref(false)
const shown = computed(() =>
  [...marks.value].sort((a, b) => (backwards.value ? b.number - a.number : a.number - b.number)),
)
const save = useMutation({
  mutationFn: () =>
    ask(
      api.PUT('/api/pictures/{id}/fasteners', {
        params: { path: { id: props.picture.id } },
        body: { fasteners: marks.value },
      }),
    ),
  onSuccess: () => emit('done'),
})

function drop(e: MouseEvent): void {
  const box = (e.currentTarget as HTMLElement).getBoundingClientRect()
  put(
    Math.round(((e.clientX - box.left) / box.width) * 1000),
    Math.round(((e.clientY - box.top) / box.height) * 1000),
  )
}

function put(x: number, y: number): void {
  const last = marks.value[marks.value.length - 1]
  const number = Math.max(0, ...marks.value.map((m) => m.number)) + 1
  if (number > 99) return
  marks.value.push({
    number,
    x,
    y,
    kind: last?.kind ?? 'M3 cross',
    length: last?.length ?? '6 mm',
    lies: last?.lies ?? '',
  })
}

function out(number: number): void {
  marks.value = marks.value
    .filter((m) => m.number !== number)
    .map((m) => (m.number > number ? { ...m, number: m.number - 1 } : m))
}
</script>

<template>
  <div>
    <p class="text-sm text-slate">
      Click where a fastener sits, in the order in which they come out.
    </p>
    <div class="relative mt-2 cursor-crosshair" @click="drop">
      <img :src="`/api/pictures/${picture.id}`" :alt="picture.name" class="w-full rounded" />
      <span
        v-for="m in marks"
        :key="m.number"
        class="figure absolute flex h-6 w-6 -translate-1/2 items-center justify-center rounded-full border-2 border-[#1d2930] bg-lampfill text-sm font-bold text-[#1d2930]"
        :style="{ left: `${m.x / 10}%`, top: `${m.y / 10}%` }"
        >{{ m.number }}</span
      >
    </div>
    <div class="mt-3 flex items-center justify-between">
      <h3 class="head">{{ backwards ? 'Putting together' : 'Taking apart' }}</h3>
      <button type="button" class="text-sm text-river underline" @click="backwards = !backwards">
        {{ backwards ? 'show taking apart' : 'show putting together' }}
      </button>
    </div>
    <ol class="divide-y divide-rule">
      <li v-for="m in shown" :key="m.number" class="flex items-center gap-2 py-1">
        <span class="figure w-6 shrink-0 text-right font-bold">{{ m.number }}</span>
        <input v-model="m.kind" class="field min-w-0 text-sm" maxlength="60" aria-label="Kind" />
        <input v-model="m.length" class="field w-20! text-sm" maxlength="20" aria-label="Length" />
        <input
          v-model="m.lies"
          class="field min-w-0 text-sm"
          maxlength="80"
          placeholder="where it lies now"
          aria-label="Where it lies now"
        />
        <button
          type="button"
          class="key"
          :aria-label="`Take out ${m.number}`"
          @click="out(m.number)"
        >
          ✕
        </button>
      </li>
    </ol>
    <button type="button" class="mt-1 text-sm text-river underline" @click="put(500, 500)">
      add one in the middle
    </button>
    <p v-if="save.isError.value" class="mt-2 text-brick" role="alert">
      ✕ {{ sentence(save.error.value) }}
    </p>
    <div class="mt-3 flex gap-3">
      <button type="button" class="next" @click="save.mutate()">Keep the map</button>
      <button type="button" class="plain" @click="emit('cancel')">Back</button>
    </div>
  </div>
</template>
