<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { useKeyWall } from './keys'

/** One that is paper is printed alone, without what is behind it. */
defineProps<{ title: string; wide?: boolean; paper?: boolean }>()
defineEmits<{ close: [] }>()
useKeyWall()
</script>

<template>
  <Dialog
    :open="true"
    class="relative z-40 font-sans text-ink"
    :data-paper="paper || undefined"
    @close="$emit('close')"
  >
    <div class="fixed inset-0 bg-black/45" aria-hidden="true" />
    <div class="fixed inset-0 overflow-y-auto p-4">
      <div class="flex min-h-full items-center justify-center">
        <DialogPanel class="sheet relative w-full p-6" :class="wide ? 'max-w-4xl' : 'max-w-xl'">
          <DialogTitle class="mb-4 pr-12 text-xl font-bold">{{ title }}</DialogTitle>
          <slot />
          <!-- Last in order, so that the first field has the focus and not the way out. -->
          <button
            type="button"
            class="key absolute top-6 right-6"
            aria-label="Close"
            @click="$emit('close')"
          >
            Esc
          </button>
        </DialogPanel>
      </div>
    </div>
  </Dialog>
</template>
