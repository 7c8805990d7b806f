<script setup lang="ts">
import { computed, reactive } from 'vue'
import type { Board, BoardPart, Schemas } from '../../api/client'
import Dialog from '../../shed/Dialog.vue'

/** A part in play: what it is, where it lies, what it takes to try it. */
const props = defineProps<{ board: Board; part?: BoardPart; problem: string }>()
const emit = defineEmits<{ close: []; save: [Schemas['PartText']]; remove: [] }>()
const text = reactive<Schemas['PartText']>({
  name: '',
  kind: 'drive',
  group: '',
  fitted: false,
  minutes: 10,
  money: 0,
  risk: 0,
  suspicion: 'USUAL',
  year: 0,
  megabytes: 0,
  tenthsOfVolt: 0,
  ...props.part?.text,
})
const kind = computed(() => props.board.kinds.find((k) => k.key === text.kind))
const groups = computed(() => [
  ...new Set(props.board.parts.map((p) => p.text.group).filter(Boolean)),
])
</script>

<template>
  <Dialog :title="part ? part.text.name : 'A part'" @close="emit('close')">
    <p v-if="part" class="mb-3 text-slate">{{ part.state.because }}</p>
    <form class="space-y-3" @submit.prevent="emit('save', { ...text })">
      <label class="block">
        <span class="head">Name</span>
        <input v-model="text.name" class="field mt-1" required maxlength="60" autofocus />
      </label>
      <div class="grid grid-cols-2 gap-3">
        <label class="block">
          <span class="head">Kind</span>
          <select v-model="text.kind" class="field mt-1">
            <option v-for="k in board.kinds" :key="k.key" :value="k.key">{{ k.name }}</option>
          </select>
          <span v-if="kind" class="text-sm text-slate"
            >the fault in {{ kind.prior }} of 1 000 cases, as a stated estimate</span
          >
        </label>
        <label class="block">
          <span class="head">What you know of it</span>
          <select v-model="text.suspicion" class="field mt-1">
            <option value="LESS">less likely than its kind: ÷ 3</option>
            <option value="USUAL">as its kind</option>
            <option value="MORE">more likely than its kind: × 3</option>
          </select>
        </label>
        <label class="block">
          <span class="head">Group</span>
          <input v-model="text.group" class="field mt-1" list="groups" maxlength="40" />
          <datalist id="groups"><option v-for="g in groups" :key="g" :value="g" /></datalist>
          <span class="text-sm text-slate">parts that may misbehave alike: “newer drives”</span>
        </label>
        <fieldset class="col-span-2 grid grid-cols-3 gap-3">
          <legend class="head mb-1">If you know it: the board finds groups by it</legend>
          <label class="text-sm"
            >year made<input
              v-model.number="text.year"
              type="number"
              min="0"
              max="2100"
              class="field figure"
          /></label>
          <label class="text-sm"
            >holds, MB<input
              v-model.number="text.megabytes"
              type="number"
              min="0"
              max="2000000"
              class="field figure"
          /></label>
          <label class="text-sm"
            >works at
            <select v-model.number="text.tenthsOfVolt" class="field">
              <option :value="0">not known</option>
              <option :value="33">3.3 V</option>
              <option :value="50">5 V</option>
            </select></label
          >
        </fieldset>
        <label class="flex items-center gap-2">
          <input v-model="text.fitted" type="checkbox" class="h-5 w-5" /> in the machine as it came
        </label>
      </div>
      <fieldset class="grid grid-cols-3 gap-3">
        <legend class="head mb-1">What trying it takes</legend>
        <label class="text-sm"
          >minutes<input
            v-model.number="text.minutes"
            type="number"
            min="0"
            max="10000"
            class="field figure"
        /></label>
        <label class="text-sm"
          >money<input
            v-model.number="text.money"
            type="number"
            min="0"
            max="100000"
            class="field figure"
        /></label>
        <label class="text-sm"
          >risk
          <select v-model.number="text.risk" class="field">
            <option :value="0">none</option>
            <option :value="1">low</option>
            <option :value="2">some</option>
            <option :value="3">may lose the only copy</option>
          </select></label
        >
      </fieldset>
      <p v-if="problem" class="text-brick" role="alert">✕ {{ problem }}</p>
      <div class="flex gap-3">
        <button class="next">Keep it</button>
        <button v-if="part" type="button" class="plain" @click="emit('remove')">
          Take it off the board
        </button>
      </div>
    </form>
  </Dialog>
</template>
