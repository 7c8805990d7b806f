<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import Why from '../../because/Why.vue'
import { type Geometry, inUnit, unitSize, useUnit } from '../../shed/units'

/** One volume of the plan: its size, its clusters, what they waste; name and clusters can be changed. */
const props = defineProps<{
  volume: Schemas['PlannedVolume']
  geometry: Geometry
  editable: boolean
  only: boolean
}>()
const emit = defineEmits<{ rename: [label: string]; remove: []; cluster: [bytes: number] }>()
const unit = useUnit()
const open = ref(false)
const size = unitSize
const chosen = computed(() => props.volume.slack.find((s) => s.chosen))
const next = computed(() =>
  props.volume.slack.find((s) => s.clusterBytes === props.volume.clusterBytes * 2),
)
const possible = computed(() =>
  props.volume.slack.filter((s) => s.largestSectors >= props.volume.length),
)
const text = (e: Event) => (e.target as HTMLInputElement).value
</script>

<template>
  <div class="border-t border-rule pt-2 text-[15px]">
    <p class="flex items-baseline justify-between gap-2">
      <button
        v-if="editable"
        type="button"
        class="figure truncate font-bold"
        :aria-expanded="open"
        :aria-label="`Change ${volume.letter} ${volume.label}`"
        @click="open = !open"
      >
        {{ volume.letter }} {{ volume.label }} {{ open ? '▾' : '▸' }}
      </button>
      <strong v-else class="figure truncate">{{ volume.letter }} {{ volume.label }}</strong>
      <span class="figure shrink-0">{{
        inUnit(volume.length, unit.unit === 'C/H/S' ? 'sectors' : unit.unit)
      }}</span>
    </p>
    <div v-if="open" class="my-1 space-y-1.5">
      <label class="flex items-center gap-2 text-sm text-slate">
        label
        <input
          class="field figure"
          maxlength="11"
          :value="volume.label"
          @change="emit('rename', text($event))"
        />
      </label>
      <label class="flex items-center gap-2 text-sm text-slate">
        {{ volume.unit }}s
        <select
          class="field figure"
          :value="volume.clusterBytes"
          @change="emit('cluster', Number(text($event)))"
        >
          <option v-for="s in possible" :key="s.clusterBytes" :value="s.clusterBytes">
            {{ size(s.clusterBytes) }}, wastes {{ size(s.wasteBytes) }}
          </option>
        </select>
      </label>
      <button v-if="!only" type="button" class="plain text-sm" @click="emit('remove')">
        Take this volume out
      </button>
    </div>
    <p class="text-slate">
      <Why
        :sum="volume.layout"
        :text="`${volume.kind}, ${volume.unit}s of ${size(volume.clusterBytes)}`"
      />{{ volume.active ? ', active' : '' }}
    </p>
    <p v-if="chosen && volume.source >= 0" class="text-sm text-slate">
      your files waste <Why :sum="chosen.because" :text="size(chosen.wasteBytes)" /><template
        v-if="next"
        >; with {{ volume.unit }}s of {{ size(next.clusterBytes) }}
        <Why :sum="next.because" :text="size(next.wasteBytes)"
      /></template>
    </p>
  </div>
</template>
