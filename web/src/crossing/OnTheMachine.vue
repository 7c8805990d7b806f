<script setup lang="ts">
import { count } from '../shed/units'
import type { Crossing } from './useCrossing'

/** What the machine's menu shows and starts of the files, and whether it comes up at all. */
defineProps<{ crossing: Crossing }>()
const emit = defineEmits<{ machine: [key: string] }>()
const STARTS: Record<string, { mark: string; tone: string; says: string }> = {
  AT_ONCE: { mark: '✓', tone: 'text-moss', says: 'started from the menu' },
  SLOWLY: { mark: '▲', tone: 'text-lamp', says: 'by a slower road' },
  NOT: { mark: '✕', tone: 'text-brick', says: 'not loaded' },
  '': { mark: '○', tone: 'text-slate', says: 'not said by its profile' },
}
</script>

<template>
  <section>
    <h2 class="head">On the machine</h2>
    <select
      class="field mt-1 h-9 py-0!"
      aria-label="Machine whose menu shows the files"
      :value="crossing.choices.machine"
      :disabled="crossing.carried"
      @change="emit('machine', ($event.target as HTMLSelectElement).value)"
    >
      <option value="">no menu of a card</option>
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
        {{ count(s.files) }} {{ STARTS[s.starts].says
        }}<template v-if="s.time">, {{ s.time }} of tape</template>
      </li>
      <li class="mt-1 text-slate">
        {{ crossing.laid.menu.says
        }}<template v-if="crossing.laid.menu.lines"
          >, {{ crossing.laid.menu.lines }} a page</template
        >
      </li>
    </ul>
  </section>
</template>
