<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, ask, sentence, type Job, type Station } from '../../api/client'
import Why from '../../because/Why.vue'
import WorkPanel from '../shared/WorkPanel.vue'
import OnARealCard from './OnARealCard.vue'

const props = defineProps<{ job: Job; station: Station }>()
const queries = useQueryClient()
const mediumId = ref(0)
const confirm = ref('')
const again = ref(false)
const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
const cards = computed(() => (media.data.value ?? []).filter((m) => m.kind === 'card'))
const built = computed(() => props.job.builtId > 0 && props.job.stations[5].state === 'MOSS')
const check = useQuery({
  queryKey: computed(() => ['write-check', props.job.id, props.job.builtId, mediumId.value]),
  queryFn: () =>
    ask(
      api.GET('/api/jobs/{id}/write-check', {
        params: { path: { id: props.job.id }, query: { mediumId: mediumId.value } },
      }),
    ),
  enabled: computed(() => built.value && mediumId.value > 0),
})
watch(mediumId, () => (confirm.value = ''))
// What is typed anew has not been refused yet.
watch([confirm, mediumId], () => write.reset())
// The card that the plan was made for is the one that is meant, as long as nobody chose another.
const plan = useQuery({
  queryKey: computed(() => ['plan', props.job.id]),
  queryFn: () => ask(api.GET('/api/jobs/{id}/plan', { params: { path: { id: props.job.id } } })),
  enabled: built,
})
watch(
  [() => plan.data.value?.choice.cardId, cards],
  ([card, all]) => {
    if (!mediumId.value && card && all.some((m) => m.id === card)) mediumId.value = card
  },
  { immediate: true },
)
const written = computed(() => cards.value.find((m) => m.id === props.job.cardId))
const chosen = computed(() => cards.value.find((m) => m.id === mediumId.value))
const c = computed(() => (mediumId.value ? check.data.value : undefined))
const write = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/jobs/{id}/write', {
        params: { path: { id: props.job.id } },
        body: { mediumId: mediumId.value, confirm: confirm.value },
      }),
    ),
  onSuccess: () => (again.value = false),
  onSettled: () => queries.invalidateQueries(),
})
const settled = computed(() => ['MOSS', 'BRICK'].includes(props.station.state) && !again.value)
</script>

<template>
  <WorkPanel v-if="job.workId" :work-id="job.workId" title="Write" paused="Go on writing" />
  <section v-else-if="!built" class="sheet p-8">
    <h2 class="text-lg font-bold">There is no proved image yet</h2>
    <p class="mt-1">Only an image that passed its four proofs goes on a card.</p>
    <RouterLink class="next mt-4 inline-block" :to="`/jobs/${job.id}/6`">To the build</RouterLink>
  </section>
  <section v-else-if="settled" class="sheet p-6">
    <h2 class="head">
      {{ written?.standIn ? 'Stand-in card: ' : '' }}{{ job.card || 'the card' }}
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
    <OnARealCard class="mt-5" :image="job.builtId" />
  </section>
  <div v-else class="grid gap-3 lg:grid-cols-2">
    <section class="sheet p-5">
      <h2 class="head">Which card? All of these are stand-ins</h2>
      <p class="text-sm text-slate">What is written to one lies in a file on the shelf.</p>
      <div class="mt-2 space-y-2">
        <label v-for="m in cards" :key="m.id" class="flex gap-3 rounded border border-rule p-3">
          <input v-model="mediumId" type="radio" name="card" class="mt-1 h-5 w-5" :value="m.id" />
          <span>
            <strong class="block">{{ m.name }}</strong>
            <span class="figure text-sm text-slate"
              >serial {{ m.serial }} · <Why :sum="m.sizeBecause" :text="m.size" />{{
                m.measured ? '' : ' at least'
              }}{{ m.holdsImage ? ' · holds an image' : '' }}</span
            >
          </span>
        </label>
      </div>
    </section>
    <section v-if="!c" class="sheet p-5 text-slate">
      Choose the card. Everything that is on it now will be gone; the old medium is never written.
      <OnARealCard class="mt-5 text-ink" :image="job.builtId" />
    </section>
    <section v-else-if="c.refusals.length" class="sheet border-brick p-5" role="alert">
      <h2 class="head text-brick">✕ Not this card</h2>
      <p v-for="r in c.refusals" :key="r" class="mt-2 text-lg">
        <Why :sum="c.because" :text="r" />
      </p>
    </section>
    <form
      v-else
      class="rounded border-[3px] border-brick bg-sheet p-5"
      @submit.prevent="write.mutate()"
    >
      <h2 class="head text-brick">
        ▲ Everything on this {{ chosen?.standIn ? 'stand-in' : 'card' }} will be overwritten
      </h2>
      <p class="mt-2 text-lg">{{ c.description }}</p>
      <p class="text-[15px] text-moss">✓ <Why :sum="c.because" text="The image fits it" /></p>
      <p class="mt-2 text-[15px]">
        Is anything on it still needed?
        <a class="text-river underline" :href="`/api/media/${c.mediumId}/download`"
          >keep what is on it now, packed</a
        >
      </p>
      <label class="mt-4 block">
        Type {{ c.confirmHint }}, as it is printed on the card
        <input
          v-model="confirm"
          class="field figure mt-1 w-48! py-2 text-2xl"
          maxlength="4"
          autocomplete="off"
          aria-label="Last four of the serial"
        />
      </label>
      <p v-if="write.isError.value" class="mt-3 text-brick" role="alert">
        ✕ {{ sentence(write.error.value) }}
      </p>
      <button class="danger mt-4" :disabled="confirm.length !== 4 || write.isPending.value">
        Write this {{ chosen?.standIn ? 'stand-in' : 'card' }}
      </button>
      <p class="mt-3 text-sm text-slate">All of it is read back afterwards and compared.</p>
      <OnARealCard class="mt-4 border-t border-rule pt-3" :image="job.builtId" />
    </form>
  </div>
</template>
