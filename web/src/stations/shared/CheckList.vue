<script setup lang="ts">
import { CameraIcon } from '@heroicons/vue/24/outline'
import type { Picture, Schemas } from '../../api/client'

/** A list of steps with a tick, what may be found, a place for the reading, and a caution only where one applies. */
defineProps<{
  steps: Schemas['Step'][]
  tick: (index: number) => Schemas['Tick']
  points?: Schemas['Point'][]
  pictures?: (index: number) => Picture[]
  /** What begins with a step; "" for nothing. */
  head?: (index: number) => string
  /** Whether a step may be left out with a reason. */
  why?: boolean
}>()
defineEmits<{ picture: [index: number] }>()

/** The band that is expected, in words; "" where there is none. */
function band({ band: b }: Schemas['Step']): string {
  if (!b.unit) return ''
  return b.high > 1e9 ? `above ${b.low} ${b.unit}` : `${b.low} to ${b.high} ${b.unit}`
}

/** What a tick alone does not answer; "" where nothing is left to say. */
function asks(step: Schemas['Step'], tick: Schemas['Tick'], point?: Schemas['Point']): string {
  if (!tick.done || point?.state !== 'open') return ''
  if (step.choices.length && !tick.choice) return 'Say what is found.'
  return step.reading && !tick.reading ? 'Write what it reads.' : ''
}
</script>

<template>
  <ol class="divide-y divide-rule">
    <li v-for="(step, i) in steps" :key="i" class="flex flex-wrap gap-x-3 gap-y-1 py-2">
      <h3 v-if="head?.(i)" class="head w-full pt-2">{{ head(i) }}</h3>
      <input
        :id="`step-${i}`"
        type="checkbox"
        class="mt-1 h-5 w-5 shrink-0 accent-moss"
        :checked="tick(i).done"
        @change="tick(i).done = !tick(i).done"
      />
      <div class="min-w-0 grow basis-60">
        <label :for="`step-${i}`"
          ><span v-if="points" class="figure text-slate">{{ i + 1 }}</span> {{ step.text }}</label
        >
        <span v-if="step.look" class="block text-sm text-slate">{{ step.look }}</span>
        <p v-if="step.caution" class="text-sm text-brick">▲ {{ step.caution }}</p>
        <p v-if="points?.[i]?.state === 'bad'" class="text-sm font-bold text-brick">
          ✕ {{ points[i].sentence }}
        </p>
        <p v-else-if="asks(step, tick(i), points?.[i])" class="text-sm font-bold text-lamp">
          ○ {{ asks(step, tick(i), points?.[i]) }}
        </p>
      </div>
      <div class="flex w-full items-start gap-2 sm:w-52">
        <div class="min-w-0 grow space-y-1">
          <select
            v-if="step.choices.length"
            v-model="tick(i).choice"
            class="field h-9 py-0! text-sm"
            :aria-label="`${step.text} What is found`"
            @change="tick(i).done = true"
          >
            <option value="">what is found</option>
            <option v-for="c in step.choices" :key="c.text" :value="c.text">{{ c.text }}</option>
          </select>
          <label v-if="step.reading" class="block text-sm">
            <span class="text-slate">{{ step.reading }}</span>
            <input
              v-model="tick(i).reading"
              class="field figure h-9 text-sm"
              :aria-label="`${step.reading} ${band(step)}`.trim()"
              maxlength="200"
            />
            <span v-if="band(step)" class="figure text-[14px]">{{ band(step) }}</span>
          </label>
          <input
            v-else-if="!tick(i).done && why"
            v-model="tick(i).reading"
            class="field h-9 text-sm"
            placeholder="or why not"
            :aria-label="`${step.text} Why it does not apply`"
            maxlength="200"
          />
        </div>
        <button
          v-if="pictures"
          type="button"
          class="flex h-9 w-9 shrink-0 items-center justify-center overflow-hidden rounded border border-rule text-slate hover:border-slate"
          :aria-label="`Pictures of point ${i + 1}: ${pictures(i).length}`"
          @click="$emit('picture', i)"
        >
          <img
            v-if="pictures(i).length"
            :src="`/api/pictures/${pictures(i)[0].id}?small=true`"
            class="h-full w-full object-cover"
            alt=""
          />
          <CameraIcon v-else class="h-5 w-5" aria-hidden="true" />
        </button>
      </div>
    </li>
  </ol>
</template>
