<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import Why from '../../because/Why.vue'
import { type Geometry, inUnit, useUnit } from '../../shed/units'

const props = defineProps<{ volume: Schemas['PlannedVolume']; geometry: Geometry }>()
const unit = useUnit()
const size = (bytes: number) =>
  bytes < 1_048_576 ? `${Math.floor(bytes / 102.4) / 10} KiB` : inUnit(bytes / 512, 'MiB')
const chosen = computed(() => props.volume.slack.find((s) => s.chosen))
const next = computed(() =>
  props.volume.slack.find((s) => s.clusterBytes === props.volume.clusterBytes * 2),
)
</script>

<template>
  <div class="border-t border-rule pt-2 text-[15px]">
    <p>
      <strong class="figure">{{ volume.letter }} {{ volume.label }}</strong>
      <span class="figure float-right">{{
        inUnit(volume.length, unit.unit === 'C/H/S' ? 'sectors' : unit.unit)
      }}</span>
    </p>
    <p class="text-slate">
      <Why :sum="volume.layout" :text="`${volume.kind}, ${size(volume.clusterBytes)} clusters`" />{{
        volume.active ? ', starts' : ''
      }}
    </p>
    <p v-if="chosen && volume.source >= 0" class="text-sm text-slate">
      your files waste <Why :sum="chosen.because" :text="size(chosen.wasteBytes)" /><template
        v-if="next"
        >; with {{ size(next.clusterBytes) }} clusters
        <Why :sum="next.because" :text="size(next.wasteBytes)"
      /></template>
    </p>
  </div>
</template>
