<script setup lang="ts">
import type { Plan } from '../../api/client'
import Dialog from '../../shed/Dialog.vue'

/** What is typed on the machine itself: in its own units, in order, with what its screen answers. */
defineProps<{ machine: string; card: string; steps: Plan['steps'] }>()
defineEmits<{ close: [] }>()
const print = () => window.print()
</script>

<template>
  <Dialog title="Typed on the machine" wide paper @close="$emit('close')">
    <p class="-mt-3 mb-3 text-slate">{{ machine }} · {{ card }}</p>
    <ol class="divide-y divide-rule border-y border-rule">
      <li
        v-for="(s, i) in steps"
        :key="i"
        class="grid gap-x-4 gap-y-1 py-2.5 min-[700px]:grid-cols-[2rem_1fr_13rem_13rem]"
      >
        <span class="figure text-slate">{{ i + 1 }}</span>
        <span>{{ s.text }}</span>
        <span>
          <span v-if="s.value" class="block text-sm text-slate">type</span>
          <span v-if="s.value" class="figure text-lg font-bold text-plum">{{ s.value }}</span>
        </span>
        <span>
          <span v-if="s.answers" class="block text-sm text-slate">it answers</span>
          <span v-if="s.answers" class="figure">{{ s.answers }}</span>
        </span>
      </li>
    </ol>
    <button type="button" class="plain mt-4" @click="print">Print this sheet</button>
  </Dialog>
</template>
