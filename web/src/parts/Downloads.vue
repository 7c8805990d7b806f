<script setup lang="ts">
/** An image to take away, raw or packed. */
defineProps<{ image: number }>()
</script>

<template>
  <p class="flex flex-wrap gap-4">
    <a class="text-river underline" :href="`/api/images/${image}/download?form=raw`"
      >download the raw image</a
    >
    <a class="text-river underline" :href="`/api/images/${image}/download?form=gz`">packed, .gz</a>
    <a class="text-river underline" :href="`/api/images/${image}/download?form=xz`">.xz</a>
    <a class="text-river underline" :href="`/api/images/${image}/download?form=zip`">.zip</a>
    <a class="text-river underline" :href="`/api/images/${image}/download?form=vhd`">fixed VHD</a>
  </p>
</template>
