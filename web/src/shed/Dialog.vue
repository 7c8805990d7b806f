<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

defineProps<{ title: string }>()
defineEmits<{ close: [] }>()
</script>

<template>
  <Dialog :open="true" class="relative z-40 font-sans text-ink" @close="$emit('close')">
    <div class="fixed inset-0 bg-black/45" aria-hidden="true" />
    <div class="fixed inset-0 overflow-y-auto p-4">
      <div class="flex min-h-full items-center justify-center">
        <DialogPanel class="sheet w-full max-w-xl p-6">
          <div class="mb-4 flex items-start justify-between">
            <DialogTitle class="text-xl font-bold">{{ title }}</DialogTitle>
            <button type="button" class="key" aria-label="Close" @click="$emit('close')">
              Esc
            </button>
          </div>
          <slot />
        </DialogPanel>
      </div>
    </div>
  </Dialog>
</template>
