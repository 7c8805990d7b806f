<script setup lang="ts">
/** Before a card is written over: what is on it can be kept, and its serial is typed, or what is on it (W-3). */
defineProps<{
  mediumId: number
  hint: string
  /** How many characters it has; 0 where any number may. */
  letters: number
  /** Whether what is on it lies on the shelf already. */
  kept?: boolean
}>()
const confirm = defineModel<string>({ required: true })
</script>

<template>
  <p v-if="!kept" class="mt-2 text-[15px]">
    Is anything on it still needed?
    <a class="text-river underline" :href="`/api/media/${mediumId}/download`"
      >keep what is on it now, packed</a
    >
  </p>
  <slot />
  <label class="mt-4 block">
    Type {{ hint }}
    <input
      v-model="confirm"
      class="field figure mt-1 block w-48! py-2 text-2xl"
      :maxlength="letters || 40"
      autocomplete="off"
      :aria-label="letters ? 'Last four of the serial' : 'What is on it now'"
    />
  </label>
</template>
