<script setup lang="ts">
import type { Wish } from '../../api/client'

/** In what order a medium is read, and how often what fails is tried again; may change while it runs. */
defineProps<{ running: boolean }>()
const emit = defineEmits<{ change: [] }>()
const wish = defineModel<Wish>({ required: true })
const orders = [
  { filesFirst: false, skipFree: false, text: 'Front to back', note: 'gentle: few head moves' },
  {
    filesFirst: true,
    skipFree: false,
    text: 'What is in use first',
    note: 'table, FATs, folders, files; free space last',
  },
  { filesFirst: true, skipFree: true, text: 'Only what is in use', note: 'free space never' },
]

function set(to: Partial<Wish>): void {
  wish.value = { ...wish.value, ...to }
  emit('change')
}
</script>

<template>
  <section class="sheet p-4">
    <fieldset>
      <legend class="head">Order{{ running ? ', may change now' : '' }}</legend>
      <label v-for="o in orders" :key="o.text" class="mt-1 flex gap-2 text-[15px]">
        <input
          type="radio"
          name="order"
          class="mt-1 h-4 w-4"
          :checked="wish.filesFirst === o.filesFirst && wish.skipFree === o.skipFree"
          @change="set({ filesFirst: o.filesFirst, skipFree: o.skipFree })"
        />
        <span
          >{{ o.text }} <span class="text-sm text-slate">{{ o.note }}</span></span
        >
      </label>
    </fieldset>
    <label class="mt-2 flex items-center gap-2 text-[15px]">
      Rounds of retries
      <input
        type="number"
        min="0"
        max="20"
        class="field figure w-20!"
        :value="wish.retries"
        @input="set({ retries: Number(($event.target as HTMLInputElement).value) })"
      />
    </label>
  </section>
</template>
