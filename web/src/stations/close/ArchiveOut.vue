<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Job } from '../../api/client'

/** The whole job as one file, with the images that somebody chooses; another shed takes it in. */
const props = defineProps<{ job: Job }>()
const parts = useQuery({
  queryKey: computed(() => ['archive', props.job.id, props.job.version]),
  queryFn: () =>
    ask(api.GET('/api/jobs/{id}/archive/parts', { params: { path: { id: props.job.id } } })),
})
const left = ref<number[]>([])
const chosen = computed(
  () => parts.data.value?.images.filter((i) => i.here && !left.value.includes(i.id)) ?? [],
)
const href = computed(
  () => `/api/jobs/${props.job.id}/archive?images=${chosen.value.map((i) => i.id).join(',')}`,
)
function take(id: number, along: boolean): void {
  left.value = along ? left.value.filter((x) => x !== id) : [...left.value, id]
}
</script>

<template>
  <section class="sheet p-5">
    <h2 class="head">The whole job as one file</h2>
    <p v-if="parts.isError.value" class="mt-1 text-brick" role="alert">
      ✕ {{ sentence(parts.error.value) }}
    </p>
    <template v-else-if="parts.data.value">
      <p class="mt-1 text-slate">
        Stations, logbook, fault board, plan and proof, {{ parts.data.value.pictures || 'no' }}
        {{ parts.data.value.pictures === 1 ? 'picture' : 'pictures'
        }}<template v-if="parts.data.value.files"
          >, {{ parts.data.value.files }} {{ parts.data.value.files === 1 ? 'file' : 'files' }} that
          came</template
        >; and of the images:
      </p>
      <ul class="mt-2 space-y-1">
        <li v-for="i in parts.data.value.images" :key="i.id">
          <label class="flex items-baseline gap-2">
            <input
              type="checkbox"
              class="h-5 w-5 shrink-0 self-center"
              :checked="i.here && !left.includes(i.id)"
              :disabled="!i.here"
              @change="take(i.id, ($event.target as HTMLInputElement).checked)"
            />
            <span class="min-w-0 grow">{{ i.what }}</span>
            <span class="figure shrink-0">{{ i.here ? i.size : '✕ its room was got back' }}</span>
          </label>
        </li>
        <li v-if="!parts.data.value.images.length" class="text-slate">○ none yet</li>
      </ul>
      <a class="plain mt-3 inline-block" :href="href" download>Fetch the archive</a>
      <p class="mt-1 text-sm text-slate">
        A zip with a list of digests. Another shed takes it in under Jobs; drives and cards stay
        here.
      </p>
    </template>
    <p v-else class="mt-1 text-slate">Looking at what belongs to it …</p>
  </section>
</template>
