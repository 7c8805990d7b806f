<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, type Plan, type PlanChoice } from '../../api/client'
import { holds, useCards } from '../../parts/cards'

/** Machine, card and strategy; each change goes to the core at once and can be undone. */
const props = defineProps<{ choice: PlanChoice; plan: Plan }>()
const emit = defineEmits<{ change: [how: (c: PlanChoice) => void] }>()
const catalogue = useQuery({ queryKey: ['machines'], queryFn: () => ask(api.GET('/api/machines')) })
const machine = computed(() =>
  catalogue.data.value?.machines.find((m) => m.key === props.plan.machine),
)
const { cards } = useCards()
const systems = computed(() =>
  (catalogue.data.value?.systems ?? []).filter((s) => machine.value?.systems.includes(s.key)),
)

const value = (e: Event) => (e.target as HTMLSelectElement).value
function fresh(how: (c: PlanChoice) => void): void {
  // Another firmware, system or card asks for another layout.
  emit('change', (c) => {
    how(c)
    c.volumes = []
  })
}
function toggle(id: number): void {
  fresh((c) => {
    c.drawer = c.drawer.includes(id) ? c.drawer.filter((x) => x !== id) : [...c.drawer, id]
  })
}
</script>

<template>
  <div class="mt-2 min-h-0 space-y-3 overflow-y-auto text-[15px]">
    <label class="block">
      <span class="head">Firmware</span>
      <select
        class="field mt-1"
        :value="plan.firmware"
        @change="fresh((c) => (c.firmware = value($event)))"
      >
        <option v-for="f in machine?.firmwares" :key="f.key" :value="f.key">{{ f.name }}</option>
      </select>
    </label>
    <label class="block">
      <span class="head">{{
        plan.family === 'carrier' ? 'Filesystem of the carrier' : 'System'
      }}</span>
      <select
        class="field mt-1"
        :value="plan.system"
        @change="fresh((c) => (c.system = value($event)))"
      >
        <option v-for="s in systems" :key="s.key" :value="s.key">{{ s.title }}</option>
      </select>
    </label>
    <label class="block">
      <span class="head">Card</span>
      <select
        class="field mt-1"
        :value="choice.cardId"
        @change="fresh((c) => (c.cardId = Number(value($event))))"
      >
        <option v-for="m in cards" :key="m.id" :value="m.id">
          {{ m.name }}{{ holds(m) ? ` · holds ${holds(m)}` : '' }}
        </option>
      </select>
    </label>
    <fieldset>
      <legend class="head">
        {{ machine?.span ? `In slots 2 to ${machine.span.slots}` : 'Must fit these too' }}
      </legend>
      <label
        v-for="m in cards.filter((x) => x.id !== choice.cardId)"
        :key="m.id"
        class="flex gap-2"
      >
        <input type="checkbox" :checked="choice.drawer.includes(m.id)" @change="toggle(m.id)" />{{
          m.name
        }}
      </label>
    </fieldset>
    <fieldset class="space-y-2">
      <legend class="head">Clone, grow or rebuild</legend>
      <label
        v-for="s in plan.strategies"
        :key="s.key"
        class="flex gap-2 rounded border border-rule p-2"
      >
        <input
          type="radio"
          name="strategy"
          class="mt-1"
          :checked="choice.strategy === s.key"
          :disabled="!s.possible"
          @change="fresh((c) => (c.strategy = s.key))"
        />
        <span>
          <strong>{{ s.title }}</strong>{{ s.possible ? '' : ' – not possible here' }}
          <span v-for="k in s.keeps" :key="k" class="block text-sm text-moss">✓ {{ k }}</span>
          <span v-for="l in s.loses" :key="l" class="block text-sm text-slate">− {{ l }}</span>
        </span>
      </label>
    </fieldset>
    <fieldset v-if="plan.family !== 'carrier'">
      <legend class="head">Where volumes start</legend>
      <label class="flex gap-2">
        <input
          type="radio"
          name="school"
          :checked="choice.school === 'MACHINE'"
          @change="fresh((c) => (c.school = 'MACHINE'))"
        />
        <span
          >at a head boundary
          <span class="block text-sm text-slate">as systems up to the mid-1990s expect</span></span
        >
      </label>
      <label class="flex gap-2">
        <input
          type="radio"
          name="school"
          :checked="choice.school === 'FLASH'"
          @change="fresh((c) => (c.school = 'FLASH'))"
        />
        <span
          >at multiples of 4 MiB <span class="block text-sm text-slate">as flash likes</span></span
        >
      </label>
    </fieldset>
    <label v-if="plan.family !== 'carrier'" class="flex gap-2">
      <input
        type="checkbox"
        :checked="choice.keepBootCode"
        @change="emit('change', (c) => (c.keepBootCode = !c.keepBootCode))"
      />
      keep the old boot code instead of the shed’s own
    </label>
  </div>
</template>
