<script setup lang="ts">
import { computed } from 'vue'
import { count } from '../shed/units'
import type { Crossing } from './useCrossing'

/** What the machine finds and starts of the files, and whether its menu comes up at all. */
const props = defineProps<{ crossing: Crossing }>()
const emit = defineEmits<{ machine: [key: string]; names: [names: Record<string, string>] }>()
const STARTS: Record<string, { mark: string; tone: string }> = {
  AT_ONCE: { mark: '✓', tone: 'text-moss' },
  SLOWLY: { mark: '▲', tone: 'text-lamp' },
  NOT: { mark: '✕', tone: 'text-brick' },
  '': { mark: '○', tone: 'text-slate' },
}
const numbered = computed(() => Object.keys(props.crossing.laid.menu.numbered).length)
</script>

<template>
  <section>
    <h2 class="head">On the machine</h2>
    <select
      class="field mt-1 h-9 py-0!"
      aria-label="Machine that the card is for"
      :value="crossing.choices.machine"
      :disabled="crossing.carried"
      @change="emit('machine', ($event.target as HTMLSelectElement).value)"
    >
      <option value="">not said</option>
      <option v-for="m in crossing.laid.menus" :key="m.key" :value="m.key">{{ m.name }}</option>
    </select>
    <ul v-if="crossing.laid.menu.says" class="mt-2 text-sm">
      <li v-for="f in crossing.laid.menu.startFiles" :key="f.path" :title="f.what">
        <span :class="f.there ? 'text-moss' : 'text-brick'">{{ f.there ? '✓' : '✕' }}</span>
        {{ ' ' }}<span class="figure">{{ f.path }}</span>
        {{ f.there ? 'is there' : 'is missing: without it the menu does not come up' }}
      </li>
      <li v-for="s in crossing.laid.menu.starts" :key="s.starts">
        <span :class="STARTS[s.starts].tone">{{ STARTS[s.starts].mark }}</span>
        {{ count(s.files) }} {{ s.says }}<template v-if="s.time">, {{ s.time }} of tape</template>
      </li>
      <li v-if="crossing.laid.menu.list">
        <span class="text-moss">✓</span> <span class="figure">{{ crossing.laid.menu.list }}</span>
        {{ crossing.carried ? 'was written' : 'is written' }} along, a line for each of them
      </li>
      <li v-if="crossing.laid.menu.listFault" class="text-brick">
        ✕ {{ crossing.laid.menu.listFault }}
      </li>
      <li class="mt-1 text-slate">
        {{ crossing.laid.menu.says
        }}<template v-if="crossing.laid.menu.lines"
          >, {{ crossing.laid.menu.lines }} a page</template
        >
      </li>
    </ul>
    <button
      v-if="numbered && !crossing.carried"
      type="button"
      class="plain mt-2"
      @click="emit('names', crossing.laid.menu.numbered)"
    >
      Name {{ count(numbered) }} as it asks
    </button>
  </section>
</template>
