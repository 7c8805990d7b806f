<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, ask, sentence, type Job } from '../../api/client'
import { staleJob } from '../../api/live'
import Dialog from '../../shed/Dialog.vue'

/** The recipe as text: changed by hand, or held against another one. */
const props = defineProps<{ job: Job }>()
const emit = defineEmits<{ close: [] }>()
const queries = useQueryClient()
const at = computed(() => ({ path: { id: props.job.id } }))
const text = ref('')
const settled = useQuery({
  queryKey: computed(() => ['recipe', props.job.id, props.job.version]),
  queryFn: () =>
    ask(api.GET('/api/jobs/{id}/recipe', { params: at.value, parseAs: 'text' })) as Promise<string>,
})
watch(
  () => settled.data.value,
  (recipe) => recipe && !text.value && (text.value = recipe),
  { immediate: true },
)
const typed = refDebounced(text, 300)
const draft = (now: string) => ({
  params: at.value,
  body: { version: props.job.version, text: now },
})
const look = useQuery({
  queryKey: computed(() => ['recipe-look', props.job.id, props.job.version, typed.value]),
  queryFn: () => ask(api.POST('/api/jobs/{id}/recipe/look', draft(typed.value))),
  enabled: computed(() => typed.value !== ''),
})
const l = computed(() => look.data.value)
const take = useMutation({
  mutationFn: () => ask(api.PUT('/api/jobs/{id}/recipe', draft(text.value))),
  onSuccess: () => emit('close'),
  onSettled: () => staleJob(queries, props.job.id),
})
async function bring(e: Event): Promise<void> {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (file) text.value = await file.text()
}
</script>

<template>
  <Dialog title="The recipe as text" wide @close="emit('close')">
    <p v-if="settled.isError.value" class="text-brick" role="alert">
      ✕ {{ sentence(settled.error.value) }}
    </p>
    <div class="grid gap-4 lg:grid-cols-[1fr_300px]">
      <textarea
        v-model="text"
        class="field figure h-96 text-sm leading-5"
        spellcheck="false"
        aria-label="Recipe"
      />
      <div class="min-w-0">
        <h3 class="head">Against the settled one</h3>
        <p v-if="look.isError.value || l?.trouble" class="text-[15px] text-brick" role="status">
          ✕ {{ look.isError.value ? sentence(look.error.value) : l?.trouble }}
        </p>
        <p v-else-if="!l" class="text-slate">…</p>
        <p v-else-if="!l.changes.length" class="text-moss" role="status">✓ The same.</p>
        <ul v-else class="max-h-72 overflow-y-auto text-[15px]" role="status">
          <li v-for="d in l.changes" :key="d.place" class="border-t border-rule py-1">
            <span class="figure block font-bold break-all">{{ d.place }}</span>
            <span class="figure block break-all text-slate line-through">{{ d.was || '–' }}</span>
            <span class="figure block break-all">{{ d.is || '–' }}</span>
          </li>
        </ul>
        <label class="mt-3 block text-[15px]">
          Another recipe, to compare or to take
          <input type="file" class="field mt-1" accept=".json" @change="bring" />
        </label>
        <a class="mt-2 block text-[15px] text-river underline" href="/api/recipes/schema"
          >its schema</a
        >
      </div>
    </div>
    <p v-if="take.isError.value" class="mt-2 text-brick" role="alert">
      ✕ {{ sentence(take.error.value) }}
    </p>
    <div class="mt-3 flex flex-wrap items-center gap-3">
      <button
        type="button"
        class="next"
        :disabled="!l || l.trouble !== '' || !l.changes.length || typed !== text"
        @click="take.mutate()"
      >
        Take this recipe
      </button>
      <span class="text-sm text-slate">What was built before is built anew from it.</span>
    </div>
  </Dialog>
</template>
