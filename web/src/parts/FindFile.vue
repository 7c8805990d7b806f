<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, ask, sentence } from '../api/client'
import { count } from '../shed/units'

/** Finds a disk by a file that is on it; `image` for one image and those on it, else the shelf. */
const props = defineProps<{
  label: string
  image?: number
  /** Of that image the volume whose files are listed already. */
  volume?: number
  letters?: string
  choose: string
}>()
const emit = defineEmits<{ choose: [hit: Hit] }>()
type Hit = { image: number; name: string; in: string; path: string; size: string }
const typed = ref('')
const letters = refDebounced(
  computed(() => (props.letters ?? typed.value).trim()),
  200,
)
const LEAST = 2
const found = useQuery({
  queryKey: computed(() => ['find', props.image ?? 0, letters.value]),
  queryFn: ({ signal }) => {
    const query = { letters: letters.value }
    return props.image
      ? ask(
          api.GET('/api/images/{id}/find', {
            params: { path: { id: props.image }, query },
            signal,
          }),
        )
      : ask(api.GET('/api/images/find', { params: { query }, signal }))
  },
  enabled: computed(() => letters.value.length >= LEAST),
})
/** One row a disk or volume, with its first file; those of `volume` its own list shows. */
const disks = computed(() => {
  const out = new Map<string, { first: Hit; more: number }>()
  for (const h of found.data.value?.hits ?? []) {
    if (props.image && h.in === '' && h.path.startsWith(`${props.volume}/`)) continue
    const key = `${h.image} ${h.in} ${h.path.split('/')[0]}`
    const disk = out.get(key)
    if (disk) disk.more++
    else out.set(key, { first: h, more: 0 })
  }
  return [...out.values()]
})
const way = (h: Hit) =>
  [...h.in.split('|').filter(Boolean), h.path].map((s) => s.slice(s.indexOf('/') + 1)).join(' ▸ ')
</script>

<template>
  <div>
    <input
      v-if="props.letters === undefined"
      v-model="typed"
      class="field"
      :aria-label="label"
      :placeholder="label.toLowerCase()"
    />
    <p v-if="found.isFetching.value" class="mt-1 text-sm text-slate" role="status">
      … looking through the disks
    </p>
    <p v-else-if="found.isError.value" class="mt-1 text-sm text-brick" role="alert">
      ✕ {{ sentence(found.error.value) }}
    </p>
    <template v-else-if="found.data.value && letters.length >= LEAST">
      <p v-if="!disks.length && !image" class="mt-1 text-sm text-slate" role="status">
        No disk here has a file with these letters in its name.
      </p>
      <p v-if="disks.length && image" class="head mt-2">{{ label }}</p>
      <ul v-if="disks.length" class="mt-1 max-h-48 divide-y divide-rule overflow-y-auto">
        <li
          v-for="{ first: h, more } in disks"
          :key="`${h.image} ${h.in} ${h.path}`"
          class="flex gap-3 py-1"
        >
          <span class="min-w-0 grow">
            <span class="figure block truncate" :title="way(h)"
              >{{ way(h) }}{{ more ? ' and others' : '' }}</span
            >
            <span v-if="!image" class="block truncate text-sm text-slate">{{ h.name }}</span>
          </span>
          <span class="figure shrink-0 text-sm text-slate">{{ h.size }}</span>
          <button
            type="button"
            class="shrink-0 text-sm text-river underline"
            :aria-label="`${choose}: ${way(h)}, ${h.name}`"
            @click="emit('choose', h)"
          >
            {{ choose }}
          </button>
        </li>
      </ul>
      <p v-if="!found.data.value.whole" class="mt-1 text-sm text-slate">
        There are more; say more letters.
      </p>
      <p v-if="found.data.value.unread.length" class="mt-1 text-sm text-brick">
        ✕ Not read: {{ found.data.value.unread.join(', ') }}. Check the shelf.
      </p>
      <p v-if="found.data.value.left" class="mt-1 text-sm text-slate">
        {{ count(found.data.value.left) }}
        {{ found.data.value.left === 1 ? 'image' : 'images' }} of more than 64 MiB not looked
        through: look inside.
      </p>
    </template>
  </div>
</template>
