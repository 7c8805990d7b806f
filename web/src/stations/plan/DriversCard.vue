<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { api, asItIs, ask, sentence, type Plan, type PlanChoice } from '../../api/client'

/** By whose driver each kind of volume is mounted, where the table has room for drivers (P-13). */
const props = defineProps<{ job: number; plan: Plan }>()
const emit = defineEmits<{ change: [how: (c: PlanChoice) => void] }>()
type Mounted = Plan['mounts'][number]
const bring = useMutation({
  mutationFn: async (b: { type: string; file: File }) => {
    const answer = await ask(
      api.POST('/api/jobs/{id}/plan/drivers', {
        params: { path: { id: props.job }, query: { name: b.file.name } },
        ...asItIs(b.file),
      }),
    )
    return { ...answer, type: b.type }
  },
  onSuccess: ({ type, name, sha256 }) =>
    emit('change', (c) => {
      c.drivers = [...others(c, type), { type, name, sha256 }]
    }),
})
/** A layout that was left half way by an older shed knows of none. */
const others = (c: PlanChoice, type: string) =>
  ((c.drivers as PlanChoice['drivers'] | undefined) ?? []).filter((d) => d.type !== type)
function chosen(e: Event, type: string): void {
  const field = e.target as HTMLInputElement
  const file = field.files?.[0]
  if (file) bring.mutate({ type, file })
  // The same file may be chosen again once it was mended.
  field.value = ''
}
function leave(type: string): void {
  emit('change', (c) => (c.drivers = others(c, type)))
}
const BY: Record<Mounted['by'], { mark: string; tone: string; words: string }> = {
  ROM: { mark: '✓', tone: 'text-moss', words: 'the ROM' },
  OLD: { mark: '✓', tone: 'text-moss', words: 'the old drive’s driver, which comes along' },
  BROUGHT: { mark: '✓', tone: 'text-moss', words: '' },
  NEWER: { mark: '✓', tone: 'text-moss', words: 'the newer of ROM and ' },
  NOBODY: { mark: '✕', tone: 'text-brick', words: 'nobody yet' },
}
/** None where nobody brought one, whatever the type of an answer says. */
const brought = (m: Mounted) => m.driver as Mounted['driver'] | null
function words(m: Mounted): string {
  const d = brought(m)
  if (d) return BY[m.by].words + `${d.name} ${d.version}`.trim()
  return BY[m.by].words + (m.by === 'NEWER' ? 'the old drive’s driver' : '')
}
</script>

<template>
  <section v-if="plan.mounts.length" aria-label="Drivers in the table">
    <h3 class="head">Who mounts the volumes</h3>
    <ul class="divide-y divide-rule text-[15px]">
      <li v-for="m in plan.mounts" :key="m.type" class="flex gap-2 py-1">
        <span class="shrink-0 font-bold" :class="BY[m.by].tone">{{ BY[m.by].mark }}</span>
        <p class="min-w-0">
          <span class="figure">{{ m.letters.join(', ') }} · {{ m.type }}</span> {{ m.kind }}:
          <strong class="break-words">{{ words(m) }}</strong>
          <span class="block text-sm">
            <label class="cursor-pointer text-river underline focus-within:outline-2"
              >{{ brought(m) ? 'bring another' : 'bring a driver’s file'
              }}<input
                type="file"
                class="sr-only"
                :aria-label="`Bring a driver’s file for ${m.type}`"
                @change="chosen($event, m.type)"
              />
            </label>
            <span v-if="bring.isPending.value" class="ml-3 text-slate" role="status"
              >Looking at it …</span
            >
            <button
              v-if="brought(m)"
              type="button"
              class="ml-3 text-river underline"
              :aria-label="`Leave ${m.driver.name} out`"
              @click="leave(m.type)"
            >
              leave it out
            </button>
          </span>
        </p>
      </li>
    </ul>
    <p v-if="bring.isError.value" class="text-[15px] text-brick" role="alert">
      ✕ {{ sentence(bring.error.value) }}
    </p>
  </section>
</template>
