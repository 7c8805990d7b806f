<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, ask, sentence, type Medium } from '../api/client'
import Why from '../because/Why.vue'
import Dialog from '../shed/Dialog.vue'
import BySerial from './BySerial.vue'
import WorkPanel from './WorkPanel.vue'
import { useRun } from './useRun'

/** W-6: how large a card really is. It is written over, so it is confirmed by its serial. */
const props = defineProps<{ card: Medium }>()
const emit = defineEmits<{ close: [] }>()
const queries = useQueryClient()
const full = ref(false)
const confirm = ref('')
const { work, state } = useRun()
const at = computed(() => ({ params: { path: { id: props.card.id } } }))
const checked = useQuery({
  queryKey: computed(() => ['true-size', props.card.id]),
  queryFn: () => ask(api.GET('/api/media/{id}/true-size', at.value)),
})
const look = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/media/{id}/true-size', {
        ...at.value,
        body: { confirm: confirm.value, full: full.value },
      }),
    ),
  onSuccess: (w) => (work.value = w.id),
  onSettled: () => queries.invalidateQueries(),
})
watch(state, () => queries.invalidateQueries({ queryKey: ['media'] }))
const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
const found = computed(() => media.data.value?.find((m) => m.id === props.card.id)?.trueSize)
</script>

<template>
  <Dialog title="How large is it really?" @close="emit('close')">
    <template v-if="!work">
      <p v-for="r in checked.data.value?.refusals" :key="r" class="text-brick" role="alert">
        ✕ {{ r }}
      </p>
      <form @submit.prevent="look.mutate()">
        <p>{{ checked.data.value?.description }}</p>
        <fieldset class="mt-3 space-y-2">
          <legend class="sr-only">How much of it</legend>
          <label class="flex gap-2">
            <input
              v-model="full"
              type="radio"
              name="full"
              :value="false"
              class="mt-1 h-5 w-5 shrink-0"
            />
            <span
              ><strong>Quick:</strong> a run at its start and one sector in each stride to its end.
              A card that wraps is found at whatever size it does.</span
            >
          </label>
          <label class="flex gap-2">
            <input
              v-model="full"
              type="radio"
              name="full"
              :value="true"
              class="mt-1 h-5 w-5 shrink-0"
            />
            <span><strong>Full:</strong> every sector is written and read back; it can wait.</span>
          </label>
        </fieldset>
        <p class="mt-3 font-bold text-brick">
          ▲ Everything on this {{ card.standIn ? 'stand-in' : 'card' }} will be overwritten.
        </p>
        <BySerial
          v-model="confirm"
          :medium-id="card.id"
          :hint="checked.data.value?.confirmHint ?? ''"
          :letters="checked.data.value?.letters ?? 4"
        />
        <p v-if="look.isError.value" class="mt-2 text-brick" role="alert">
          ✕ {{ sentence(look.error.value) }}
        </p>
        <button
          class="danger mt-4"
          :disabled="
            !confirm.trim() ||
            confirm.length < (checked.data.value?.letters ?? 4) ||
            !!checked.data.value?.refusals.length ||
            look.isPending.value
          "
        >
          Write over it and look
        </button>
      </form>
    </template>
    <template v-else-if="state === 'DONE'">
      <p
        v-if="found"
        class="flex gap-2 text-xl font-bold"
        :class="found.kind === 'TRUE' ? 'text-moss' : 'text-brick'"
        role="status"
      >
        {{ found.kind === 'TRUE' ? '✓' : '✕' }}
        <Why :sum="found.because" :text="found.sentence" />
      </p>
      <p v-if="found && found.kind !== 'BAD'" class="mt-2">
        From now on it counts with what it keeps.
      </p>
      <button type="button" class="next mt-4" @click="emit('close')">Done</button>
    </template>
    <p v-else-if="state === 'CANCELLED'" class="text-brick" role="status">
      ✕ Cancelled: it holds patterns, and nothing is known of its size.
    </p>
    <template v-else>
      <WorkPanel :work-id="work" title="Looking at its true size" paused="Go on" />
      <p v-if="state !== 'PAUSED'" class="mt-2 text-sm text-slate">
        When this is closed it goes on; it is found under Media.
      </p>
    </template>
  </Dialog>
</template>
