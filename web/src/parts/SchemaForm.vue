<script setup lang="ts">
import { computed } from 'vue'

/** A form for what a JSON Schema describes: text, numbers, choices, lists and records of these. */
export interface Shape {
  type?: string | string[]
  title?: string
  description?: string
  enum?: string[]
  oneOf?: { const: string | number; title: string }[]
  uniqueItems?: boolean
  properties?: Record<string, Shape>
  items?: Shape
  maxLength?: number
  maxItems?: number
  minimum?: number
  maximum?: number
  required?: string[]
}
/** Records within a record are short: their fields lie side by side. */
const props = defineProps<{ shape: Shape; locked?: string[]; within?: boolean }>()
const value = defineModel<unknown>({ required: true })
/** What may be missing as a whole: a record, or null. */
const kind = computed(() => ([] as (string | undefined)[]).concat(props.shape.type)[0])
const optional = computed(
  () => Array.isArray(props.shape.type) && props.shape.type.includes('null'),
)
/** A choice is written as what it is, a number too. */
const chosen = (shape: Shape, text: string) =>
  shape.oneOf?.find((o) => String(o.const) === text)?.const ?? text
function tick(x: unknown, on: boolean): void {
  const others = list.value.filter((y) => y !== x)
  value.value = on ? [...others, x] : others
}
const list = computed(() => (Array.isArray(value.value) ? (value.value as unknown[]) : []))
const record = computed(() => (value.value ?? {}) as Record<string, unknown>)
const plainItems = computed(() => props.shape.items?.type !== 'object')

function empty(s: Shape): unknown {
  if (s.enum) return s.enum[0]
  if (s.oneOf) return s.oneOf[0]?.const
  if (Array.isArray(s.type) && s.type.includes('null')) return null
  return filled(s)
}

function filled(s: Shape): unknown {
  if (s.type === 'array') return []
  if (s.type === 'boolean') return false
  if (s.type === 'integer' || s.type === 'number') return Math.max(0, s.minimum ?? 0)
  if (s.type !== 'object' && !Array.isArray(s.type)) return ''
  return Object.fromEntries(
    Object.entries(s.properties ?? {})
      .filter(([key]) => s.required?.includes(key))
      .map(([key, p]) => [key, empty(p)]),
  )
}

function set(key: string, to: unknown): void {
  value.value = { ...record.value, [key]: to }
}

function put(i: number, to: unknown): void {
  value.value = list.value.map((x, at) => (at === i ? to : x))
}

function move(i: number, by: number): void {
  const next = [...list.value]
  const [x] = next.splice(i, 1)
  next.splice(i + by, 0, x)
  value.value = next
}

/** Whether one field stands under a title, so that the title is its label. */
const named = (p: Shape) => !p.properties && p.type !== 'array'

function label(x: unknown): string {
  const r = x as Record<string, unknown>
  return String(r.name ?? r.text ?? r.title ?? r.does ?? r.where ?? r.key ?? '')
}
</script>

<template>
  <select
    v-if="shape.enum"
    class="field"
    :value="value"
    @change="value = ($event.target as HTMLSelectElement).value"
  >
    <option v-for="o in shape.enum" :key="o" :value="o">{{ o || 'none' }}</option>
  </select>
  <select
    v-else-if="shape.oneOf"
    class="field"
    :value="String(value)"
    @change="value = chosen(shape, ($event.target as HTMLSelectElement).value)"
  >
    <option v-for="o in shape.oneOf" :key="o.const" :value="String(o.const)">{{ o.title }}</option>
  </select>
  <div v-else-if="shape.items?.oneOf && shape.uniqueItems" class="flex flex-wrap gap-x-5 gap-y-1">
    <label v-for="o in shape.items.oneOf" :key="o.const" class="flex items-center gap-2">
      <input
        type="checkbox"
        class="h-5 w-5"
        :checked="list.includes(o.const)"
        @change="tick(o.const, ($event.target as HTMLInputElement).checked)"
      />
      {{ o.title }}
    </label>
  </div>
  <input
    v-else-if="shape.type === 'boolean'"
    type="checkbox"
    class="h-5 w-5"
    :checked="value === true"
    @change="value = ($event.target as HTMLInputElement).checked"
  />
  <input
    v-else-if="shape.type === 'integer' || shape.type === 'number'"
    type="number"
    class="field figure"
    :step="shape.type === 'integer' ? 1 : 'any'"
    :min="shape.minimum"
    :max="shape.maximum"
    :value="value"
    @input="value = Number(($event.target as HTMLInputElement).value)"
  />
  <div v-else-if="shape.type === 'array'">
    <div v-for="(x, i) in list" :key="i" class="mb-1 flex items-start gap-2">
      <SchemaForm
        v-if="plainItems"
        :model-value="x"
        :shape="shape.items!"
        @update:model-value="(to) => put(i, to)"
      />
      <details v-else class="min-w-0 grow rounded border border-rule px-3 py-1">
        <summary class="cursor-pointer truncate">{{ label(x) || `${i + 1}` }}</summary>
        <SchemaForm
          :model-value="x"
          :shape="shape.items!"
          class="py-2"
          @update:model-value="(to) => put(i, to)"
        />
      </details>
      <button type="button" class="key" aria-label="Up" :disabled="i === 0" @click="move(i, -1)">
        ↑
      </button>
      <button
        type="button"
        class="key"
        aria-label="Take out"
        @click="value = list.filter((_, at) => at !== i)"
      >
        ✕
      </button>
    </div>
    <button
      type="button"
      class="text-[15px] text-river underline"
      :disabled="list.length >= (shape.maxItems ?? 100)"
      @click="value = [...list, empty(shape.items!)]"
    >
      add {{ (shape.items?.title ?? 'one').toLowerCase() }}
    </button>
  </div>
  <button
    v-else-if="optional && (value === null || value === undefined)"
    type="button"
    class="block text-[15px] text-river underline"
    @click="value = filled(shape)"
  >
    there is one
  </button>
  <div
    v-else-if="kind === 'object'"
    class="grid min-w-0 gap-2"
    :class="within ? 'items-end border-l-2 border-rule pl-3 sm:grid-cols-2' : ''"
  >
    <button
      v-if="optional"
      type="button"
      class="col-span-full justify-self-start text-[15px] text-river underline"
      @click="value = null"
    >
      there is none
    </button>
    <component
      :is="named(p) ? 'label' : 'fieldset'"
      v-for="(p, key) in shape.properties"
      :key="key"
      class="min-w-0"
      :class="
        p.type === 'boolean' ? 'flex flex-row-reverse items-center justify-end gap-2' : 'block'
      "
    >
      <component
        :is="named(p) ? 'span' : 'legend'"
        :class="p.type === 'boolean' ? 'text-[15px]' : 'text-sm text-slate'"
        >{{ p.title ?? key }}{{ p.description ? ` (${p.description})` : '' }}</component
      >
      <SchemaForm
        v-if="!locked?.includes(String(key))"
        :model-value="record[key] ?? empty(p)"
        :shape="p"
        :within="true"
        @update:model-value="(to) => set(String(key), to)"
      />
      <span v-else class="figure block">{{ record[key] }}</span>
    </component>
  </div>
  <input
    v-else
    class="field"
    :maxlength="shape.maxLength"
    :value="value"
    @input="value = ($event.target as HTMLInputElement).value"
  />
</template>
