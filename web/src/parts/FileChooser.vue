<script setup lang="ts">
import { picked, type FromDesktop } from './dropped'

/** Files or a folder of this computer, for those who do not drop them. */
const emit = defineEmits<{ chosen: [files: FromDesktop[]] }>()
function choose(e: Event): void {
  const input = e.target as HTMLInputElement
  if (input.files?.length) emit('chosen', picked(input.files))
  // The same files can be chosen once more.
  input.value = ''
}
</script>

<template>
  <div class="flex flex-wrap gap-3">
    <label class="plain cursor-pointer focus-within:outline-2">
      Choose files
      <input type="file" multiple class="sr-only" aria-label="Choose files" @change="choose" />
    </label>
    <label class="plain cursor-pointer focus-within:outline-2">
      Choose a folder
      <input
        type="file"
        webkitdirectory
        class="sr-only"
        aria-label="Choose a folder"
        @change="choose"
      />
    </label>
  </div>
</template>
