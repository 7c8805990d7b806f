<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence } from '../api/client'
import { hex, type Rom } from './useRoms'

/** What was changed from this image to another, as when it was configured. */
const props = defineProps<{ rom: Rom }>()
const other = ref(0)
const roms = useQuery({ queryKey: ['roms'], queryFn: () => ask(api.GET('/api/roms')) })
const others = computed(() => (roms.data.value ?? []).filter((r) => r.id !== props.rom.id))
const change = useQuery({
  queryKey: computed(() => ['rom-against', props.rom.id, other.value]),
  queryFn: () =>
    ask(
      api.GET('/api/roms/{id}/against/{other}', {
        params: { path: { id: props.rom.id, other: other.value } },
      }),
    ),
  enabled: computed(() => other.value > 0),
})
const c = computed(() => (other.value ? change.data.value : undefined))
</script>

<template>
  <section v-if="others.length" class="sheet p-4">
    <h2 class="head">Before and after configuring</h2>
    <select v-model.number="other" class="field mt-1 h-9 py-0!" aria-label="Compared with">
      <option :value="0">this one against …</option>
      <option v-for="r in others" :key="r.id" :value="r.id">{{ r.name }}</option>
    </select>
    <p v-if="change.isError.value" class="mt-1 text-brick" role="alert">
      ✕ {{ sentence(change.error.value) }}
    </p>
    <template v-if="c">
      <p class="mt-2" role="status">{{ c.sentence }}</p>
      <table v-if="c.places.length" class="mt-1 w-full text-sm">
        <thead>
          <tr class="text-left text-slate">
            <th class="font-normal">at</th>
            <th class="font-normal">bytes</th>
            <th class="font-normal">what lies there</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in c.places" :key="p.at" class="border-t border-rule align-top">
            <td class="figure pr-2">{{ hex(p.at) }}</td>
            <td class="figure pr-2">
              {{ p.before }}<span class="block text-moss">→ {{ p.after }}</span>
            </td>
            <td>{{ p.means }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="c.more" class="mt-1 text-sm text-slate">and {{ c.more }} places more</p>
    </template>
    <p v-else class="mt-1 text-sm text-slate">
      Some images work only once they were configured: keep both, and see what was changed.
    </p>
  </section>
</template>
