<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { ref } from 'vue'
import { api, ask, sentence } from '../../api/client'
import Dialog from '../../shed/Dialog.vue'

/** A plain start-up log of a drive emulator, explained line by line. */
const emit = defineEmits<{ close: [] }>()
const text = ref('')
const read = useMutation({
  mutationFn: () => ask(api.POST('/api/start-logs', { body: { text: text.value } })),
})
const TONES: Record<string, string> = {
  good: 'text-moss',
  cause: 'text-brick font-bold',
  note: 'text-slate',
  '': 'text-slate',
}
const MARKS: Record<string, string> = { good: '✓', cause: '✕', note: '·', '': ' ' }

async function dropped(e: DragEvent): Promise<void> {
  const file = e.dataTransfer?.files[0]
  if (!file) return
  text.value = (await file.slice(0, 1_000_000).text()) ?? ''
  read.mutate()
}
</script>

<template>
  <Dialog title="Read a start-up log" @close="emit('close')">
    <div @dragover.prevent @drop.prevent="dropped">
      <label class="block">
        <span class="head">Paste the log of a drive emulator, or drop its file here</span>
        <textarea v-model="text" class="field figure mt-1 text-sm" rows="6" maxlength="1000000" />
      </label>
      <button type="button" class="next mt-2" :disabled="!text.trim()" @click="read.mutate()">
        Explain it
      </button>
      <p v-if="read.isError.value" class="mt-3 text-brick" role="alert">
        ✕ {{ sentence(read.error.value) }}
      </p>
      <template v-if="read.data.value">
        <p
          class="mt-3 border-l-4 pl-3 text-lg font-bold"
          :class="read.data.value.cause ? 'border-brick' : 'border-moss'"
          role="status"
        >
          {{
            read.data.value.cause
              ? `✕ ${read.data.value.cause}`
              : '✓ A good start: nothing in it is amiss.'
          }}
        </p>
        <ol class="mt-2 max-h-72 overflow-y-auto">
          <li v-for="l in read.data.value.lines" :key="l.number" class="border-t border-rule py-1">
            <code class="figure block text-sm break-all"
              ><span class="mr-2 text-slate">{{ l.number }}</span
              >{{ l.text }}</code
            >
            <span class="text-sm" :class="TONES[l.level]"
              >{{ MARKS[l.level] }} {{ l.says || 'not explained by this format' }}</span
            >
          </li>
        </ol>
      </template>
    </div>
  </Dialog>
</template>
