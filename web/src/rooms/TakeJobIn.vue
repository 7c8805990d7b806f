<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, asItIs, ask, sentence } from '../api/client'
import ErrandLine from '../parts/ErrandLine.vue'
import { useErrand } from '../parts/useErrand'
import Dialog from '../shed/Dialog.vue'

/** A job that another shed wrote as one file becomes one of this shed. */
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const queries = useQueryClient()
const errand = useErrand()
const name = ref('')
const take = useMutation({
  mutationFn: (file: File) => errand.run(ask(api.POST('/api/jobs/archive', asItIs(file)))),
  onSuccess: (job) => {
    void queries.invalidateQueries({ queryKey: ['jobs'] })
    void queries.invalidateQueries({ queryKey: ['images'] })
    emit('close')
    void router.push(`/jobs/${job}`)
  },
})
function choose(e: Event): void {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  name.value = file.name
  take.mutate(file)
  // The same file can be chosen once more.
  input.value = ''
}
</script>

<template>
  <Dialog title="Take a job in" @close="emit('close')">
    <p>
      An archive that another shed wrote at Close. What was written down is looked through before
      anything is kept, and what does not agree with its digest is refused.
    </p>
    <ErrandLine
      v-if="errand.errand.value"
      class="mt-3"
      :errand="errand.errand.value"
      :title="`Taking ${name} in`"
      @stop="errand.stop()"
    />
    <p v-else-if="take.isPending.value" class="mt-3 text-slate" role="status">
      ↻ Bringing {{ name }} here …
    </p>
    <p v-if="take.isError.value" class="mt-3 text-brick" role="alert">
      ✕ {{ sentence(take.error.value) }}
    </p>
    <label
      v-if="!take.isPending.value"
      class="next mt-4 inline-block cursor-pointer focus-within:outline-2"
    >
      Choose the archive
      <input
        type="file"
        accept=".zip"
        class="sr-only"
        aria-label="Choose the archive"
        @change="choose"
      />
    </label>
  </Dialog>
</template>
