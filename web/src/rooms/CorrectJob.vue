<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, reactive } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, sentence, type Job } from '../api/client'
import Dialog from '../shed/Dialog.vue'
import { useUndo } from '../shed/undo'

/** What a job is called, its fault in words, its family; and the way off the bench. */
const props = defineProps<{ job: Job }>()
const emit = defineEmits<{ close: [] }>()
const queries = useQueryClient()
const router = useRouter()
const undo = useUndo()
const facts = reactive({
  machine: props.job.machine,
  fault: props.job.fault,
  profile: props.job.profile,
})
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const path = { id: props.job.id }
const otherFamily = computed(() => facts.profile !== props.job.profile)
const save = useMutation({
  mutationFn: () =>
    ask(
      api.PUT('/api/jobs/{id}', {
        params: { path },
        body: { version: props.job.version, ...facts },
      }),
    ),
  onSuccess: async () => {
    await queries.invalidateQueries()
    emit('close')
  },
})
const remove = useMutation({
  mutationFn: () => ask(api.DELETE('/api/jobs/{id}', { params: { path } })),
  onSuccess: async () => {
    undo.offer(`${props.job.machine} is off the bench; all of it is kept.`, () =>
      ask(api.POST('/api/jobs/{id}/back', { params: { path } })),
    )
    await router.push('/jobs')
    await queries.invalidateQueries()
  },
})
const problem = computed(() => save.error.value ?? remove.error.value)
</script>

<template>
  <Dialog title="Correct this job" @close="emit('close')">
    <form class="space-y-3" @submit.prevent="save.mutate()">
      <label class="block">
        <span class="head">The machine</span>
        <input v-model.trim="facts.machine" class="field mt-1" required maxlength="120" autofocus />
      </label>
      <label class="block">
        <span class="head">Its fault, in the owner’s words</span>
        <input v-model.trim="facts.fault" class="field mt-1" maxlength="400" />
      </label>
      <label class="block">
        <span class="head">Its family</span>
        <select v-model="facts.profile" class="field mt-1">
          <option v-for="m in catalogue.data.value?.machines" :key="m.key" :value="m.key">
            {{ m.name }}
          </option>
        </select>
      </label>
      <p v-if="otherFamily" class="border-l-4 border-lampfill pl-3">
        Another family has other points, ceilings and lists: Intake is looked at anew, and what was
        settled from Plan on is done again. Rescue, survey and logbook stay.
      </p>
      <p v-if="problem" class="text-brick" role="alert">✕ {{ sentence(problem) }}</p>
      <div class="flex flex-wrap gap-3">
        <button class="next" :disabled="save.isPending.value">Keep it</button>
        <button type="button" class="plain" @click="remove.mutate()">Take it off the bench</button>
      </div>
    </form>
  </Dialog>
</template>
