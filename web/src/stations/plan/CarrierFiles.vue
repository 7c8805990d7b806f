<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, ask, type Plan, type PlanChoice } from '../../api/client'
import ImageChoice from '../../parts/ImageChoice.vue'
import { inUnit } from '../../shed/units'

/** The drives on a carrier card: each an image of the shelf under an id, as a file of its own. */
const props = defineProps<{ plan: Plan; choice: PlanChoice }>()
const emit = defineEmits<{ change: [how: (c: PlanChoice) => void] }>()
const adding = ref(0)
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const carrier = computed(
  () => catalogue.data.value?.machines.find((m) => m.key === props.plan.machine)?.carrier,
)
const files = computed(() => props.plan.volumes.flatMap((v) => v.files))

watch(adding, (imageId) => {
  if (!imageId) return
  adding.value = 0
  emit('change', (c) => c.carried.push({ imageId, id: -1 }))
})
/** Ids as they stand, so that taking one drive out does not move the others. */
function held(c: PlanChoice): void {
  files.value.forEach((f, i) => c.carried[i] && (c.carried[i].id = f.id))
}
</script>

<template>
  <section aria-label="Drives on the carrier">
    <h3 class="head">Drives on the carrier</h3>
    <ul class="mt-1 divide-y divide-rule">
      <li v-for="(f, i) in files" :key="i" class="flex items-center gap-3 py-1.5">
        <select
          class="field figure w-24! shrink-0 px-2!"
          :aria-label="`Id of ${f.title}`"
          :value="f.id"
          @change="
            emit('change', (c) => {
              held(c)
              c.carried[i].id = Number(($event.target as HTMLSelectElement).value)
            })
          "
        >
          <option v-for="id in carrier?.ids" :key="id" :value="id">id {{ id }}</option>
        </select>
        <span class="min-w-0 grow">
          <span class="figure block font-bold">{{ f.name }}</span>
          <span class="block truncate text-sm text-slate" :title="f.title"
            ><span class="figure">{{ inUnit(f.bytes / 512, 'MiB') }}</span> · {{ f.title }}</span
          >
        </span>
        <button
          type="button"
          class="shrink-0 text-sm text-river underline"
          :aria-label="`Take ${f.title} off the carrier`"
          @click="
            emit('change', (c) => {
              held(c)
              c.carried.splice(i, 1)
            })
          "
        >
          take off
        </button>
      </li>
    </ul>
    <ImageChoice
      v-model="adding"
      class="mt-2"
      label="Add a drive from the shelf"
      none="add a drive from the shelf"
    />
  </section>
</template>
