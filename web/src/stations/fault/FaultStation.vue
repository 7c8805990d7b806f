<script setup lang="ts">
import type { Job, Station } from '../../api/client'
import { useRecord } from '../shared/useRecord'

const props = defineProps<{ job: Job; station: Station }>()
const { record, dirty, save, problem } = useRecord(
  () => props.job,
  () => props.station,
)
const choices = [
  {
    key: 'storage',
    text: 'Storage is the fault',
    note: 'A control shows it: a known good drive works here, or this one fails elsewhere too.',
  },
  { key: 'other', text: 'Something else is', note: 'The job stops here until that is mended.' },
  { key: 'unneeded', text: 'Not asked', note: 'The drive works; it is replaced before it fails.' },
]
</script>

<template>
  <div class="grid gap-3 lg:grid-cols-2">
    <section class="sheet p-5">
      <h2 class="head">Is storage the fault at all?</h2>
      <p class="mt-1 text-slate">
        A dead key, a bad ROM or a wrong jumper look the same as a dying drive.
      </p>
      <fieldset class="mt-4 space-y-3">
        <legend class="sr-only">The verdict</legend>
        <label v-for="c in choices" :key="c.key" class="flex gap-3 rounded border border-rule p-3">
          <input
            v-model="record.choice"
            type="radio"
            name="fault"
            class="mt-1 h-5 w-5"
            :value="c.key"
          />
          <span
            ><strong class="block">{{ c.text }}</strong
            ><span class="text-sm text-slate">{{ c.note }}</span></span
          >
        </label>
      </fieldset>
    </section>
    <section class="sheet p-5">
      <label class="block">
        <span class="head">What you tried, and what it showed</span>
        <textarea
          v-model="record.notes"
          class="field mt-1"
          rows="9"
          maxlength="10000"
          placeholder="same cable, another drive: works"
        />
      </label>
      <p v-if="problem()" class="mt-2 text-brick" role="alert">✕ {{ problem() }}</p>
      <div class="mt-3 flex gap-3">
        <button
          v-if="station.state === 'LIT' || station.state === 'DARK' || dirty"
          type="button"
          class="next"
          @click="save.mutate(true)"
        >
          Settle this station
        </button>
        <button v-else type="button" class="plain" @click="save.mutate(false)">Open again</button>
      </div>
    </section>
  </div>
</template>
