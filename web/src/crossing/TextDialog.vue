<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence } from '../api/client'
import Dialog from '../shed/Dialog.vue'
import type { Crossing, TextChange } from './useCrossing'

/** What becomes of texts on their way, with one of them before and after side by side. */
const props = defineProps<{ crossing: Crossing }>()
const emit = defineEmits<{ close: []; change: [text: TextChange] }>()
const ENDS = { KEEP: 'as they are', CRLF: 'CR LF', LF: 'LF', CR: 'CR', OWN_9B: '9B' } as const
const PAGES = { from: 'code page now', to: 'code page there' } as const
const text = computed(() => props.crossing.choices.text)
const put = (change: Partial<TextChange>) => emit('change', { ...text.value, ...change })
const value = (e: Event) => (e.target as HTMLSelectElement).value

const small = computed(() =>
  props.crossing.laid.rows.filter((r) => r.disk >= 0 && r.bytes < 1 << 20).map((r) => r.from),
)
const likely = computed(() => small.value.find((p) => /\.(txt|bas|asm|bat|ini|me|c|pas)$/i.test(p)))
const shown = ref('')
const path = computed(() => shown.value || likely.value || small.value[0] || '')
const preview = useQuery({
  queryKey: computed(() => ['text', props.crossing.id, path.value, text.value]),
  queryFn: () =>
    ask(
      api.GET('/api/crossings/{id}/text', {
        params: { path: { id: props.crossing.id }, query: { path: path.value } },
      }),
    ),
  enabled: computed(() => path.value !== ''),
  retry: false,
})
</script>

<template>
  <Dialog title="Texts on their way" wide @close="emit('close')">
    <p class="text-slate">
      Off unless it is asked for; only what is a text by its bytes is changed, and what would be
      lost is said. The files that you brought stay on the shelf as they are.
    </p>
    <div class="mt-3 flex flex-wrap items-end gap-4">
      <label
        >lines end with
        <select
          class="field mt-1"
          :value="text.ends"
          @change="put({ ends: value($event) as TextChange['ends'] })"
        >
          <option v-for="(says, key) in ENDS" :key="key" :value="key">{{ says }}</option>
        </select></label
      >
      <label v-for="(says, side) in PAGES" :key="side"
        >{{ says }}
        <select class="field mt-1" :value="text[side]" @change="put({ [side]: value($event) })">
          <option value="">as it is</option>
          <option v-for="p in crossing.laid.pages" :key="p" :value="p">{{ p }}</option>
        </select></label
      >
      <label
        >spaces for tabs, columns
        <input
          type="number"
          min="0"
          max="16"
          class="field figure mt-1"
          title="Columns between tab stops; 0 leaves tabs as they are"
          :value="text.tabs"
          @change="put({ tabs: Number(value($event)) || 0 })"
      /></label>
      <label class="flex items-center gap-2 pb-2">
        <input
          type="checkbox"
          :checked="text.mark"
          @change="put({ mark: ($event.target as HTMLInputElement).checked })"
        />
        1A at the end
      </label>
    </div>
    <template v-if="path">
      <label class="mt-4 block"
        ><span class="head">One of them</span>
        <select
          class="field mt-1"
          :value="path"
          @change="shown = ($event.target as HTMLSelectElement).value"
        >
          <option v-for="p in small.slice(0, 500)" :key="p" :value="p">{{ p }}</option>
        </select></label
      >
      <p v-if="preview.isError.value" class="mt-2 text-slate">
        ○ {{ sentence(preview.error.value) }}
      </p>
      <template v-else-if="preview.data.value">
        <p class="mt-2" role="status">
          <span v-if="preview.data.value.lost" class="text-lamp"
            >▲ loses {{ preview.data.value.lost }}</span
          >
          <span v-else-if="preview.data.value.says" class="text-moss"
            >✓ {{ preview.data.value.says }}; the old bytes can be had again</span
          >
          <span v-else class="text-slate">○ it stays as it is</span>
        </p>
        <div class="mt-2 grid gap-3 sm:grid-cols-2">
          <section v-for="side in ['before', 'after'] as const" :key="side" class="min-w-0">
            <h3 class="head">{{ side === 'before' ? 'as it is now' : 'as it will lie' }}</h3>
            <pre
              class="figure mt-1 h-56 overflow-auto rounded border border-rule p-2 text-sm"
              tabindex="0"
              >{{ preview.data.value[side] }}</pre>
          </section>
        </div>
      </template>
    </template>
  </Dialog>
</template>
