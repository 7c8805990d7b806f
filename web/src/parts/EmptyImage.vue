<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { reactive, ref } from 'vue'
import { api, ask, sentence } from '../api/client'
import Dialog from '../shed/Dialog.vue'
import { count, inUnit } from '../shed/units'
import ErrandLine from './ErrandLine.vue'
import { useErrand } from './useErrand'

/** An image of a size and nothing on it: a drive that the machine prepares itself. */
const emit = defineEmits<{ close: [] }>()
const queries = useQueryClient()
const KINDS = {
  drive: 'A drive',
  disk: 'A floppy or small disk',
  library: 'A library of small disks',
}
const SAYS = {
  drive: 'A drive with nothing on it, which the machine or its emulator prepares itself.',
  disk: 'Formatted, without a file; for a floppy emulator or a library.',
  library: 'One file with a row of places for disks of 200 KiB, for the root of a card.',
}
const kind = ref<keyof typeof KINDS>('drive')
const image = reactive({ name: '', sectors: 122_880, places: 16, disk: '720K' })
const disks = useQuery({ queryKey: ['disks'], queryFn: () => ask(api.GET('/api/images/disks')) })
const { errand, run, stop } = useErrand()
const make = useMutation({
  mutationFn: () => {
    const { name, sectors, places, disk } = image
    if (kind.value === 'library')
      return run(ask(api.POST('/api/images/library', { body: { name, places } })))
    const body = { name, sectors, disk: kind.value === 'disk' ? disk : '' }
    return run(ask(api.POST('/api/images/empty', { body })))
  },
  onSuccess: () => {
    void queries.invalidateQueries({ queryKey: ['images'] })
    emit('close')
  },
})
</script>

<template>
  <Dialog title="An empty image" @close="emit('close')">
    <div class="flex flex-wrap gap-3" role="group" aria-label="Kind of image">
      <button
        v-for="(words, k) in KINDS"
        :key="k"
        type="button"
        class="plain"
        :class="kind === k ? 'border-2 border-ink! font-bold' : ''"
        :aria-pressed="kind === k"
        @click="kind = k"
      >
        {{ words }}
      </button>
    </div>
    <p class="mt-2 text-slate">{{ SAYS[kind] }}</p>
    <form class="mt-3 space-y-3" @submit.prevent="make.mutate()">
      <label class="block"
        ><span class="head">Name</span
        ><input v-model.trim="image.name" class="field mt-1" required maxlength="160"
      /></label>
      <label v-if="kind === 'library'" class="block"
        ><span class="head">Places for disks</span
        ><input
          v-model.number="image.places"
          type="number"
          class="field figure mt-1"
          required
          min="1"
          max="511"
      /></label>
      <label v-else-if="kind === 'disk'" class="block"
        ><span class="head">Kind of disk</span
        ><select v-model="image.disk" class="field mt-1">
          <option v-for="d in disks.data.value" :key="d.key" :value="d.key">{{ d.title }}</option>
        </select></label
      >
      <label v-else class="block"
        ><span class="head">Length in sectors of 512 bytes</span
        ><input
          v-model.number="image.sectors"
          type="number"
          class="field figure mt-1"
          required
          min="1"
          max="134217728"
        />
        <span class="figure mt-1 block text-sm text-slate"
          >{{ count(image.sectors || 0) }} sectors, {{ inUnit(image.sectors || 0, 'MiB') }}</span
        ></label
      >
      <ErrandLine v-if="errand" :errand="errand" title="Making it" @stop="stop" />
      <p v-if="make.isError.value" class="text-brick" role="alert">
        ✕ {{ sentence(make.error.value) }}
      </p>
      <button class="next" :disabled="make.isPending.value">Put it on the shelf</button>
    </form>
  </Dialog>
</template>
