<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Advice, Schemas } from '../../api/client'
import Why from '../../because/Why.vue'

/** The test to do next, and what each outcome would leave. */
const props = defineProps<{ reasoning: Schemas['Reasoning']; first: boolean }>()
const emit = defineEmits<{ take: [Advice]; went: [Advice, 'WORKS' | 'FAILS'] }>()
const at = ref(0)
const advice = computed(
  () => props.reasoning.next[Math.min(at.value, props.reasoning.next.length - 1)],
)
const RISKS = ['no risk', 'low risk', 'some risk', 'may lose the only copy']
const cost = (a: Advice) =>
  [
    `${a.cost.minutes} min`,
    a.cost.money ? `costs about ${a.cost.money}` : 'costs nothing',
    RISKS[a.cost.risk],
  ].join(' · ')
</script>

<template>
  <section class="sheet p-4">
    <h2 class="head">{{ at === 0 ? 'Next test' : 'Another test' }}</h2>
    <p v-if="!advice" class="mt-1 text-slate">{{ reasoning.nextNote }}</p>
    <template v-else>
      <p class="mt-1">
        <Why :sum="advice.sum" :text="advice.title" />
        <span v-if="advice.control" class="text-sm text-moss"> ◇ a control</span>
      </p>
      <p class="figure text-sm text-slate">{{ cost(advice) }}</p>
      <dl class="mt-1 text-sm">
        <div v-for="way in ['works', 'fails'] as const" :key="way" class="mt-1">
          <dt class="inline font-bold" :class="way === 'works' ? 'text-moss' : 'text-brick'">
            {{ way === 'works' ? '✓ works' : '✕ fails' }} →
          </dt>
          <dd class="inline">
            {{ advice[way].leaves.join('; ') || 'many remain' }}
            <span v-if="advice[way].then" class="block pl-4 text-slate">
              then: {{ advice[way].then }}</span
            >
          </dd>
        </div>
      </dl>
      <div class="mt-3 flex flex-wrap items-center gap-2">
        <button type="button" :class="first ? 'next' : 'plain'" @click="emit('take', advice)">
          Do this test
        </button>
        <button type="button" class="plain" @click="emit('went', advice, 'WORKS')">
          ✓ it worked
        </button>
        <button type="button" class="plain" @click="emit('went', advice, 'FAILS')">
          ✕ it failed
        </button>
        <button
          v-if="reasoning.next.length > 1"
          type="button"
          class="text-[15px] text-river underline"
          @click="at = (at + 1) % reasoning.next.length"
        >
          another one ({{ at + 1 }} of {{ reasoning.next.length }})
        </button>
      </div>
    </template>
  </section>
</template>
