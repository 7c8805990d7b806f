<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, type Job, type Station } from '../../api/client'
import OnARealCard from '../../parts/OnARealCard.vue'
import RehearsalPanel from '../../parts/RehearsalPanel.vue'
import WorkPanel from '../../parts/WorkPanel.vue'
import WriteForm from '../../parts/WriteForm.vue'

const props = defineProps<{ job: Job; station: Station }>()
const again = ref(false)
const at = computed(() => ({ path: { id: props.job.id } }))
/** Proved here, or an image of the shelf that goes on the card as it is. */
const ready = computed(
  () => props.job.builtId > 0 && ['MOSS', 'DASH'].includes(props.job.stations[5].state),
)
// The card that the plan was made for is the one that is meant.
const plan = useQuery({
  queryKey: computed(() => ['plan', props.job.id]),
  queryFn: () => ask(api.GET('/api/jobs/{id}/plan', { params: at.value })),
  enabled: computed(() => ready.value && props.job.stations[4].state === 'MOSS'),
})
const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
const written = computed(() => media.data.value?.find((m) => m.id === props.job.cardId))
const check = (mediumId: number) =>
  ask(api.GET('/api/jobs/{id}/write-check', { params: { ...at.value, query: { mediumId } } }))
const write = (mediumId: number, confirm: string, onlyChanges: boolean) =>
  ask(
    api.POST('/api/jobs/{id}/write', {
      params: at.value,
      body: { mediumId, confirm, onlyChanges },
    }),
  )
/** Whether its start was walked when it was proved: then it is walked on the card as well. */
const proof = useQuery({
  queryKey: computed(() => ['proof', props.job.id, props.job.builtId, props.job.version]),
  queryFn: () => ask(api.GET('/api/jobs/{id}/proof', { params: at.value })),
  enabled: computed(() => props.station.state === 'MOSS'),
})
const settled = computed(() => ['MOSS', 'BRICK'].includes(props.station.state) && !again.value)
</script>

<template>
  <WorkPanel v-if="job.workId" :work-id="job.workId" title="Write" paused="Go on writing" />
  <section v-else-if="job.madeBy" class="sheet p-8">
    <h2 class="text-lg font-bold">Nothing is written here</h2>
    <p class="mt-1">– {{ job.madeBy }}</p>
    <RouterLink class="next mt-4 inline-block" :to="`/jobs/${job.id}/8`">Fit the cards</RouterLink>
  </section>
  <section v-else-if="!ready" class="sheet p-8">
    <h2 class="text-lg font-bold">There is no proved image yet</h2>
    <p class="mt-1">
      An image that passed its four proofs goes on a card, or one of the shelf as it is.
    </p>
    <RouterLink class="next mt-4 inline-block" :to="`/jobs/${job.id}/6`">To the build</RouterLink>
  </section>
  <div v-else-if="settled" class="space-y-3">
    <section class="sheet p-6">
      <h2 class="head">
        {{ written?.standIn ? 'Stand-in card: ' : written?.node ? 'Real card: ' : ''
        }}{{ job.card || 'the card' }}
      </h2>
      <p
        class="mt-2 text-2xl font-bold"
        :class="station.state === 'MOSS' ? 'text-moss' : 'text-brick'"
        role="status"
      >
        {{ station.state === 'MOSS' ? '✓' : '✕' }} {{ station.sentence }}
      </p>
      <div class="mt-4 flex gap-3">
        <RouterLink v-if="station.state === 'MOSS'" class="next" :to="`/jobs/${job.id}/8`"
          >Fit the card</RouterLink
        >
        <button
          type="button"
          :class="station.state === 'MOSS' ? 'plain' : 'next'"
          @click="again = true"
        >
          Write another card
        </button>
      </div>
      <OnARealCard v-if="!written?.node" class="mt-5" :image="job.builtId" />
    </section>
    <RehearsalPanel
      v-if="station.state === 'MOSS' && proof.data.value?.boot.length"
      :job="job.id"
      :image="job.builtId"
      card
    />
  </div>
  <WriteForm
    v-else
    :about="[job.id]"
    :image="job.builtId"
    :check="check"
    :write="write"
    :meant="plan.data.value?.choice.cardId ?? 0"
    @begun="again = false"
  />
</template>
