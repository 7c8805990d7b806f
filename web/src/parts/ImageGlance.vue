<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { useIntersectionObserver } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, ask } from '../api/client'

/** What is on an image, in a line; looked at only when it comes in sight. */
const props = defineProps<{ image: number }>()
const line = ref<HTMLElement | null>(null)
const seen = ref(false)
const { stop } = useIntersectionObserver(line, ([entry]) => {
  if (!entry?.isIntersecting) return
  seen.value = true
  stop()
})
const glance = useQuery({
  queryKey: computed(() => ['glance', props.image]),
  queryFn: () => ask(api.GET('/api/images/{id}/glance', { params: { path: { id: props.image } } })),
  enabled: seen,
  staleTime: Infinity,
})
const words = computed(() => {
  const g = glance.data.value
  if (!g) return ''
  const more = g.more ? [`${g.more} more`] : []
  const what = [...g.volumes, ...more].join(' · ')
  if (!what) return g.table ? `${g.table}, empty` : 'nothing on it that is known'
  return (g.table ? `${g.table}: ` : '') + what
})
</script>

<template>
  <p ref="line" class="text-[15px]">
    <template v-if="glance.data.value">
      {{ words }}
      <span v-if="glance.data.value.wrong" class="text-brick"
        >▲ {{ glance.data.value.wrong }}
        {{ glance.data.value.wrong === 1 ? 'finding' : 'findings' }}</span
      >
    </template>
    <span v-else class="text-slate">{{ glance.isError.value ? '▲ does not read' : '…' }}</span>
  </p>
</template>
