<script setup lang="ts">
import Dialog from './Dialog.vue'
import { keysNow } from './keys'

defineEmits<{ close: [] }>()
const keys = keysNow().filter((k, i, all) => all.findIndex((o) => o.key === k.key) === i)
</script>

<template>
  <Dialog title="Keys that work here" @close="$emit('close')">
    <dl class="grid grid-cols-[5rem_1fr] gap-y-1">
      <template v-for="k in keys" :key="k.key">
        <dt>
          <span class="key">{{ k.key === ' ' ? 'Space' : k.key }}</span>
        </dt>
        <dd>{{ k.says }}</dd>
      </template>
    </dl>
  </Dialog>
</template>
