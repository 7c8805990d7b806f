<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { api, ask, sentence } from '../api/client'
import Downloads from '../parts/Downloads.vue'
import { count } from '../shed/units'

const images = useQuery({ queryKey: ['images'], queryFn: () => ask(api.GET('/api/images')) })
</script>

<template>
  <section>
    <h1 class="mb-3 text-xl font-bold">Images on the shelf</h1>
    <p v-if="images.isError.value" class="text-brick" role="alert">
      ✕ {{ sentence(images.error.value) }}
    </p>
    <div v-else-if="images.data.value?.length === 0" class="sheet p-8">
      <h2 class="text-lg font-bold">The shelf is empty</h2>
      <p>An image comes here when a medium is rescued or a new one is built and proved.</p>
      <RouterLink class="next mt-4 inline-block" to="/jobs">To the jobs</RouterLink>
    </div>
    <article v-for="i in images.data.value" :key="i.id" class="sheet mb-2 p-4">
      <div class="flex flex-wrap items-baseline justify-between gap-3">
        <strong>{{ i.name }}</strong>
        <span class="figure">{{ i.size }} · {{ count(i.sectors) }} sectors</span>
      </div>
      <p class="text-sm text-slate">
        from {{ i.origin }} ·
        <span :class="i.lost ? 'text-brick' : 'text-moss'">{{
          i.lost ? `▲ ${count(i.lost)} sectors lost` : '✓ whole'
        }}</span>
      </p>
      <p class="figure mt-1 text-sm break-all">{{ i.sha256 }}</p>
      <Downloads class="mt-1 text-[15px]" :image="i.id" />
    </article>
  </section>
</template>
