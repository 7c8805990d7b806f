<script setup lang="ts">
import { computed } from 'vue'

/** A form for what a JSON Schema describes: text, numbers, choices, lists and records of these. */
export interface Shape {
  type?: string
  title?: string
  description?: string
  enum?: string[]
  properties?: Record<string, Shape>
  items?: Shape
  maxLength?: number
  maxItems?: number
  minimum?: number
  maximum?: number
  required?: string[]
}
const props = defineProps<{ shape: Shape; locked?: string[] }>()
const value = defineModel<unknown>({ required: true })
const list = computed(() => (Array.isArray(value.value) ? (value.value as unknown[]) : []))
const record = computed(() => (value.value ?? {}) as Record<string, unknown>)
const plainItems = computed(() => props.shape.items?.type !== 'object')

function empty(s: Shape): unknown {
  if (s.enum) return s.enum[0]
  if (s.type === 'array') return []
  if (s.type === 'boolean') return false
  if (s.type === 'integer' || s.type === 'number') return Math.max(0, s.minimum ?? 0)
  if (s.type !== 'object') return ''
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
  <div v-else-if="shape.type === 'object'" class="grid gap-2">
    <label v-for="(p, key) in shape.properties" :key="key" class="block">
      <span class="text-sm text-slate">{{ p.title ?? key }}</span>
      <SchemaForm
        v-if="!locked?.includes(String(key))"
        :model-value="record[key] ?? empty(p)"
        :shape="p"
        @update:model-value="(to) => set(String(key), to)"
      />
      <span v-else class="figure block">{{ record[key] }}</span>
    </label>
  </div>
  <input
    v-else
    class="field"
    :maxlength="shape.maxLength"
    :value="value"
    @input="value = ($event.target as HTMLInputElement).value"
  />
</template>
