<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { api, ask } from '../api/client'

/** One image of the shelf; 0 for none. */
defineProps<{ none: string; label?: string; required?: boolean }>()
const image = defineModel<number>({ required: true })
const images = useQuery({ queryKey: ['images'], queryFn: () => ask(api.GET('/api/images')) })
</script>

<template>
  <select v-model="image" class="field" :aria-label="label" :required="required">
    <option :value="0" :disabled="required">{{ none }}</option>
    <option v-for="i in images.data.value" :key="i.id" :value="i.id">
      {{ i.name }}, {{ i.size }}
    </option>
  </select>
</template>
