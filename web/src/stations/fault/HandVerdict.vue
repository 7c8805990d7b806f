<script setup lang="ts">
import type { Job, Station } from '../../api/client'
import RecordLine from '../shared/RecordLine.vue'
import { useRecord } from '../shared/useRecord'

/** The verdict by hand: where no board is needed, or the person knows more than it says. */
const props = defineProps<{ job: Job; station: Station }>()
const { record, dirty, save, problem, waits } = useRecord(
  () => props.job,
  () => props.station,
)
const choices = [
  { key: 'storage', text: 'Storage is the fault' },
  { key: 'other', text: 'Something else is; the job stops here' },
  { key: 'unneeded', text: 'Not asked: it is replaced before it fails' },
]
</script>

<template>
  <section class="sheet p-4">
    <fieldset class="space-y-2">
      <legend class="head">By hand</legend>
      <label v-for="c in choices" :key="c.key" class="flex gap-2">
        <input v-model="record.choice" type="radio" name="fault" class="h-5 w-5" :value="c.key" />
        {{ c.text }}
      </label>
    </fieldset>
    <label class="mt-3 block">
      <span class="head">Why</span>
      <textarea v-model="record.notes" class="field mt-1" rows="2" maxlength="10000" />
    </label>
    <RecordLine class="mt-2" :problem="problem()" :waits="waits" />
    <div class="mt-2 flex gap-3">
      <button type="button" class="plain" :disabled="!record.choice" @click="save.mutate(true)">
        Settle this station
      </button>
      <button
        v-if="!dirty && station.state !== 'LIT' && station.state !== 'DARK'"
        type="button"
        class="plain"
        @click="save.mutate(false)"
      >
        Open again
      </button>
    </div>
  </section>
</template>
