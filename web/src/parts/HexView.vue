<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence, type Schemas } from '../api/client'
import { useKeys } from '../shed/keys'
import { count } from '../shed/units'

/** Any sector of an image, with the name of what lies there and of the byte under the cursor. */
const props = defineProps<{ image: number; sectors: number }>()
const PAGE = 4
const top = ref(0)
const asked = ref('0')
const at = ref({ sector: 0, byte: 0 })
const rows = useQuery({
  queryKey: computed(() => ['sectors', props.image, top.value]),
  queryFn: () =>
    ask(
      api.GET('/api/images/{id}/sectors', {
        params: { path: { id: props.image }, query: { start: top.value, count: PAGE } },
      }),
    ),
  placeholderData: (before) => before,
})
const here = computed(() => rows.data.value?.find((r) => r.lba === at.value.sector))
const field = computed(() =>
  here.value?.fields.find((f) => at.value.byte >= f.at && at.value.byte < f.at + f.length),
)
const value = computed(() => {
  const f = field.value
  if (!f || !here.value || f.length > 4) return ''
  let n = 0
  for (let i = f.length - 1; i >= 0; i--) n = n * 256 + byte(here.value, f.at + i)
  return count(n)
})

function byte(r: Schemas['SectorRow'], i: number): number {
  return parseInt(r.hex.slice(i * 2, i * 2 + 2), 16)
}

function go(to: number): void {
  top.value = Math.max(0, Math.min(props.sectors - 1, to))
  asked.value = String(top.value)
  at.value = { sector: top.value, byte: 0 }
}

function line(r: Schemas['SectorRow'], i: number): { bytes: number[]; text: string } {
  const bytes = Array.from({ length: 16 }, (_, k) => byte(r, i * 16 + k))
  const text = bytes.map((b) => (b >= 0x20 && b < 0x7f ? String.fromCharCode(b) : '·')).join('')
  return { bytes, text }
}

function inField(r: Schemas['SectorRow'], i: number): boolean {
  const f = field.value
  return !!f && r.lba === at.value.sector && i >= f.at && i < f.at + f.length
}

useKeys([
  { key: 'PageDown', says: 'next sectors', does: () => go(top.value + PAGE) },
  { key: 'PageUp', says: 'previous sectors', does: () => go(top.value - PAGE) },
])
</script>

<template>
  <div>
    <form class="flex flex-wrap items-center gap-2" @submit.prevent="go(Number(asked))">
      <button type="button" class="plain" :disabled="top === 0" @click="go(top - PAGE)">
        Up <span class="key">PgUp</span>
      </button>
      <label class="text-sm"
        >sector
        <input
          v-model="asked"
          class="field figure inline w-32!"
          inputmode="numeric"
          aria-label="Sector"
      /></label>
      <button class="plain">Go</button>
      <button type="button" class="plain" :disabled="top + PAGE >= sectors" @click="go(top + PAGE)">
        Down <span class="key">PgDn</span>
      </button>
      <span class="figure text-sm text-slate">of {{ count(sectors) }}</span>
      <p class="min-w-0 grow text-right text-[15px]" aria-live="polite">
        <span class="figure text-slate">{{ here?.place }}</span>
        <template v-if="field">
          · <strong>{{ field.name }}</strong> <span class="figure">{{ value }}</span>
        </template>
      </p>
    </form>
    <input
      type="range"
      class="mt-1 w-full"
      min="0"
      :max="Math.max(0, sectors - PAGE)"
      :value="top"
      aria-label="Depth in the image"
      @change="go(Number(($event.target as HTMLInputElement).value))"
    />
    <p v-if="rows.isError.value" class="text-brick" role="alert">
      ✕ {{ sentence(rows.error.value) }}
    </p>
    <div
      class="mt-1 max-h-[330px] overflow-auto"
      tabindex="0"
      aria-label="Sectors in hexadecimal"
      @wheel.passive="(e) => Math.abs(e.deltaY) > 80 && go(top + Math.sign(e.deltaY) * PAGE)"
    >
      <div v-for="r in rows.data.value" :key="r.lba" class="border-t border-rule py-1">
        <p class="figure text-sm">
          <strong>{{ count(r.lba) }}</strong> <span class="text-slate">{{ r.place }}</span>
        </p>
        <p v-for="i in 32" :key="i" class="figure text-[13px] leading-5 whitespace-pre">
          <span class="text-slate">{{ ((i - 1) * 16).toString(16).padStart(3, '0') }} </span><span
            v-for="(x, k) in line(r, i - 1).bytes"
            :key="k"
            class="cursor-pointer"
            :class="[
              inField(r, (i - 1) * 16 + k) ? 'bg-lampfill/40' : '',
              x === 0 ? 'text-slate' : '',
            ]"
            @click="at = { sector: r.lba, byte: (i - 1) * 16 + k }"
            >{{ k === 8 ? '  ' : ' ' }}{{ x.toString(16).padStart(2, '0') }}</span
          ><span class="text-slate"> {{ line(r, i - 1).text }}</span>
        </p>
      </div>
    </div>
  </div>
</template>
