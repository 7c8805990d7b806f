<script setup lang="ts">
/**
 * An image to take away, raw or packed; one no longer than 720 sectors of 256 bytes also with the
 * head that emulators of such disks expect.
 */
const SMALL_DISK = 360
withDefaults(defineProps<{ image: number; sectors?: number }>(), { sectors: 1 << 20 })
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
    <a
      v-if="sectors <= SMALL_DISK"
      class="text-river underline"
      :href="`/api/images/${image}/download?form=atr`"
      >.atr</a
    >
  </p>
</template>
