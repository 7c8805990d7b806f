<script setup lang="ts">
import Why from '../because/Why.vue'
import { sizeIn, useUnit } from '../shed/units'
import type { Crossing } from './useCrossing'

/** The disks of a set, or several volumes: each a bar that fills; a press shows what goes there. */
const props = defineProps<{ crossing: Crossing }>()
const shown = defineModel<number>('shown', { required: true })
const unit = useUnit()
const size = (bytes: number) => sizeIn(bytes, unit.unit)
/** What a disk holds before is its own bookkeeping; what a volume holds is drawn by itself. */
const part = (d: Crossing['laid']['disks'][number]) =>
  props.crossing.image ? d.comes : d.there + d.comes
</script>

<template>
  <ol class="space-y-3">
    <li v-for="(d, i) in crossing.laid.disks" :key="i">
      <div class="flex items-baseline justify-between gap-2">
        <button
          type="button"
          class="font-bold"
          :class="shown === i ? 'text-river underline' : 'hover:text-river'"
          :aria-pressed="shown === i"
          @click="shown = shown === i ? -1 : i"
        >
          {{ d.name }}
        </button>
        <span class="figure text-sm">
          {{ d.files }} {{ d.files === 1 ? 'file' : 'files' }} ·
          <Why :sum="d.because" :text="size(d.there + d.comes)" />
        </span>
      </div>
      <div
        class="mt-1 flex h-4 rounded border border-rule bg-sheet"
        role="img"
        :aria-label="`${d.name}: ${size(d.comes)} of ${size(d.size)}`"
      >
        <div
          v-if="crossing.image"
          class="h-full bg-[repeating-linear-gradient(45deg,var(--lamp)_0_2px,transparent_2px_6px)]"
          :style="{ width: `${Math.min(100, (d.there / d.size) * 100)}%` }"
        />
        <div
          class="h-full border-r-2 border-moss bg-[radial-gradient(var(--moss)_1.3px,transparent_1.4px)] bg-[length:9px_9px]"
          :style="{ width: `${Math.min(100, (part(d) / d.size) * 100)}%` }"
        />
      </div>
      <RouterLink v-if="d.image" class="text-sm text-river underline" :to="`/images?at=${d.image}`"
        >Look inside {{ d.name }}</RouterLink
      >
    </li>
  </ol>
</template>
