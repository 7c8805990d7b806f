<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, sentence, type Job } from '../api/client'
import ImageChoice from '../parts/ImageChoice.vue'
import Dialog from '../shed/Dialog.vue'

const emit = defineEmits<{ close: []; take: [] }>()
const router = useRouter()
const queries = useQueryClient()
const machine = ref('')
const profile = ref('')
const fault = ref('')
const mediumId = ref(0)
const imageId = ref(0)
const startsFrom = ref<Job['startsFrom']>('MEDIUM')
const BEGINNINGS: { key: Job['startsFrom']; text: string; note: string }[] = [
  { key: 'MEDIUM', text: 'an old drive or floppy', note: 'it is imaged before anything else' },
  { key: 'FILES', text: 'files of a desktop', note: 'dropped in, folders and all' },
  { key: 'IMAGE', text: 'an image on the shelf', note: 'a starter, or one made elsewhere' },
  { key: 'NOTHING', text: 'nothing', note: 'the machine gets its first drive' },
]
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
const originals = computed(() => (media.data.value ?? []).filter((m) => !m.card))
const chosen = computed(() => catalogue.data.value?.machines.find((m) => m.key === profile.value))

const open = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/jobs', {
        body: {
          machine: machine.value,
          profile: profile.value,
          fault: fault.value,
          mediumId: startsFrom.value === 'MEDIUM' ? mediumId.value : 0,
          startsFrom: startsFrom.value,
          imageId: imageId.value,
        },
      }),
    ),
  onSuccess: (job) => {
    void queries.invalidateQueries({ queryKey: ['jobs'] })
    emit('close')
    void router.push(`/jobs/${job.id}`)
  },
})
</script>

<template>
  <Dialog title="Open a job" @close="emit('close')">
    <form class="space-y-4" @submit.prevent="open.mutate()">
      <label class="block">
        <span class="head">What is the machine called?</span>
        <input v-model.trim="machine" class="field mt-1" required maxlength="120" autofocus />
      </label>
      <label class="block">
        <span class="head">Which family is it of?</span>
        <select v-model="profile" class="field mt-1" required>
          <option value="" disabled>choose a profile</option>
          <option v-for="m in catalogue.data.value?.machines" :key="m.key" :value="m.key">
            {{ m.name }}
          </option>
        </select>
        <span v-if="chosen" class="mt-1 block text-sm text-slate">{{ chosen.matters }}</span>
      </label>
      <label class="block">
        <span class="head">The fault, in the owner’s words</span>
        <textarea v-model.trim="fault" class="field mt-1" rows="2" maxlength="400" />
      </label>
      <fieldset>
        <legend class="head">What does it start from?</legend>
        <div class="mt-1 grid grid-cols-2 gap-x-4 gap-y-1">
          <label v-for="b in BEGINNINGS" :key="b.key" class="flex gap-2">
            <input
              v-model="startsFrom"
              type="radio"
              name="starts-from"
              class="mt-1 h-5 w-5 shrink-0"
              :value="b.key"
            />
            <span
              >{{ b.text }} <span class="block text-sm text-slate">{{ b.note }}</span></span
            >
          </label>
        </div>
      </fieldset>
      <label v-if="startsFrom === 'IMAGE'" class="block">
        <span class="head">The image</span>
        <ImageChoice v-model="imageId" class="mt-1" none="choose an image" required />
      </label>
      <label v-if="startsFrom === 'MEDIUM'" class="block">
        <span class="head">The medium that came with it</span>
        <select v-model="mediumId" class="field mt-1">
          <option :value="0">not chosen yet</option>
          <option v-for="m in originals" :key="m.id" :value="m.id">
            {{ m.name }}, {{ m.size }}
          </option>
        </select>
      </label>
      <p v-if="open.isError.value" class="text-brick" role="alert">
        ✕ {{ sentence(open.error.value) }}
      </p>
      <button class="next" :disabled="open.isPending.value || (startsFrom === 'IMAGE' && !imageId)">
        Open it
      </button>
      <button type="button" class="ml-4 text-river underline" @click="emit('take')">
        take one in that another shed wrote
      </button>
    </form>
  </Dialog>
</template>
