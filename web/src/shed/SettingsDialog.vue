<script setup lang="ts">
import Dialog from './Dialog.vue'
import { type Look, useSettings } from './settings'

defineEmits<{ close: [] }>()
const settings = useSettings()
const looks: { key: Look; text: string }[] = [
  { key: 'system', text: 'as the system' },
  { key: 'day', text: 'day' },
  { key: 'night', text: 'night' },
]
</script>

<template>
  <Dialog title="On this computer" @close="$emit('close')">
    <label class="block">
      <span class="head">Your name in the logbook</span>
      <input
        v-model.trim="settings.author"
        class="field mt-1"
        maxlength="60"
        placeholder="the loom keeper"
      />
    </label>
    <fieldset class="mt-4">
      <legend class="head">Light</legend>
      <label v-for="l in looks" :key="l.key" class="mr-5 inline-flex items-center gap-2">
        <input v-model="settings.look" type="radio" name="look" :value="l.key" />{{ l.text }}
      </label>
    </fieldset>
    <button type="button" class="next mt-6" @click="$emit('close')">Done</button>
  </Dialog>
</template>
