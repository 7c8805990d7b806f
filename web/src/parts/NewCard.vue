<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { reactive } from 'vue'
import { api, ask, sentence } from '../api/client'
import Dialog from '../shed/Dialog.vue'
import { useCardKinds } from './cards'

/** A card for the drawer. It is a stand-in: what is written to it lies in a file on the shelf. */
const emit = defineEmits<{ close: [] }>()
const queries = useQueryClient()
const kinds = useCardKinds()
const card = reactive({
  name: '',
  serial: '',
  labelMegabytes: 512,
  sectors: 0,
  joint: '',
  cylinders: 0,
  heads: 0,
  perTrack: 0,
})
const add = useMutation({
  mutationFn: () => {
    // A field that was emptied is not known, as 0 is.
    const body = {
      ...card,
      sectors: card.sectors || 0,
      cylinders: card.cylinders || 0,
      heads: card.heads || 0,
      perTrack: card.perTrack || 0,
    }
    return ask(api.POST('/api/media/cards', { body }))
  },
  onSuccess: () => {
    void queries.invalidateQueries({ queryKey: ['media'] })
    emit('close')
  },
})
</script>

<template>
  <Dialog title="A card for the drawer" @close="emit('close')">
    <p class="text-slate">
      A stand-in for your card: images are planned for it, written to it and read back from it here.
    </p>
    <form class="mt-3 space-y-3" @submit.prevent="add.mutate()">
      <label class="block"
        ><span class="head">Name</span
        ><input v-model.trim="card.name" class="field mt-1" required maxlength="120"
      /></label>
      <label class="block"
        ><span class="head">Serial, as printed on it</span
        ><input
          v-model.trim="card.serial"
          class="field figure mt-1"
          required
          minlength="4"
          maxlength="40"
          pattern="[A-Za-z0-9\-]+"
      /></label>
      <label class="block"
        ><span class="head">What it is made for</span
        ><select v-model="card.joint" class="field mt-1">
          <option value="">not known, or another kind</option>
          <option v-for="c in kinds" :key="c.key" :value="c.key">{{ c.name }}</option>
        </select></label
      >
      <label class="block"
        ><span class="head">The size printed on it, in MB</span
        ><input
          v-model.number="card.labelMegabytes"
          type="number"
          min="1"
          class="field figure mt-1"
          required
      /></label>
      <details>
        <summary class="cursor-pointer">
          If you know more of it: true size, cylinders, heads
        </summary>
        <label class="mt-3 block"
          ><span class="head">True sectors, as measured (0: not yet)</span
          ><input v-model.number="card.sectors" type="number" min="0" class="field figure mt-1"
        /></label>
        <fieldset class="mt-3">
          <legend class="head">Its own cylinders, heads, sectors (0: not known)</legend>
          <p class="text-sm text-slate">
            What it answers to an identify command; firmware without translation uses it.
          </p>
          <div class="mt-1 grid grid-cols-3 gap-2">
            <input
              v-for="f in ['cylinders', 'heads', 'perTrack'] as const"
              :key="f"
              v-model.number="card[f]"
              type="number"
              min="0"
              class="field figure"
              :aria-label="f === 'perTrack' ? 'sectors a track' : f"
            />
          </div>
        </fieldset>
      </details>
      <p v-if="add.isError.value" class="text-brick" role="alert">
        ✕ {{ sentence(add.error.value) }}
      </p>
      <button class="next" :disabled="add.isPending.value">Put it in the drawer</button>
    </form>
  </Dialog>
</template>
