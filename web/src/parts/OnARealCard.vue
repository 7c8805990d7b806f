<script setup lang="ts">
import Downloads from './Downloads.vue'

/** Without a reader here: the image goes out, and what was read back from the card comes in for the same proof. */
defineProps<{ image: number }>()
</script>

<template>
  <div>
    <h3 class="head">Without a reader here</h3>
    <ol class="mt-1 list-decimal space-y-1 pl-6 text-[15px]">
      <li>Download the image: <Downloads :image="image" /></li>
      <li>Write it to the card where you have a reader, the whole of it.</li>
      <li>
        Read the card back into a file there, bring that file in under
        <RouterLink class="text-river underline" to="/media">Media</RouterLink>, rescue it, and
        compare it with this image under
        <RouterLink class="text-river underline" to="/images">Images</RouterLink>.
      </li>
    </ol>
  </div>
</template>
