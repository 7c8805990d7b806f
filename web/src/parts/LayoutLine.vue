<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, ask, sentence } from '../api/client'

/**
 * How a disk lies that does not say so itself: what fits equally is tried by choosing it, until a
 * file whose content is known comes whole. Nothing on the disk is changed by that.
 */
const props = defineProps<{ image: number; guesses: string[]; said: string }>()
/** What fitted when it was a guess: choosing one must not take the others away. */
const fits = ref<string[]>([])
watch(
  () => [props.image, props.guesses] as const,
  ([image, now], before) => {
    if (image !== before?.[0]) fits.value = []
    if (now.length) fits.value = now
  },
  { immediate: true },
)
const own = ref('')
watch(
  () => props.said,
  (said) => (own.value = said),
  { immediate: true },
)
const choices = computed(() => [...new Set([...fits.value, ...(props.said ? [props.said] : [])])])
const client = useQueryClient()
const say = useMutation({
  mutationFn: (layout: string) =>
    ask(
      api.PUT('/api/images/{id}/layout', {
        params: { path: { id: props.image } },
        body: { layout },
      }),
    ),
  // What was read of it by another layout is no longer so, wherever it is shown.
  onSuccess: () => client.invalidateQueries(),
})
const words = (layout: string) => layout.slice(layout.indexOf(':') + 1).replaceAll(',', ' ')
</script>

<template>
  <section
    class="mt-2 border-l-[3px] pl-3"
    :class="said ? 'border-rule' : 'border-lamp'"
    aria-label="How it lies"
  >
    <p v-if="said" class="font-bold">● Read as you said.</p>
    <p v-else class="font-bold text-lamp">
      ▲ How its files lie is a guess:
      {{
        guesses.length === 1
          ? 'one way fits its folder, and nothing on it proves that.'
          : `${guesses.length} ways fit its folder equally.`
      }}
    </p>
    <p v-if="!said" class="text-[15px]">
      Choose one and look into a file whose content you know. Files can be brought onto it once you
      have chosen.
    </p>
    <div class="mt-1 flex flex-wrap items-center gap-2">
      <select
        class="field figure w-auto! max-w-full text-sm"
        aria-label="A way that fits"
        :value="said"
        @change="say.mutate(($event.target as HTMLSelectElement).value)"
      >
        <option value="">as it was found</option>
        <option v-for="c in choices" :key="c" :value="c">{{ words(c) }}</option>
      </select>
      <form class="flex flex-wrap items-center gap-2" @submit.prevent="say.mutate(own.trim())">
        <input
          v-model="own"
          class="field figure w-96! max-w-full text-sm"
          aria-label="Figures of your own"
          placeholder="cpm:offset=4096,block=2048,entries=64"
          maxlength="200"
        />
        <button class="plain" :disabled="!own.trim() || own.trim() === said">Read it so</button>
      </form>
    </div>
    <p v-if="say.isError.value" class="mt-1 text-brick" role="alert">
      ✕ {{ sentence(say.error.value) }}
    </p>
  </section>
</template>
