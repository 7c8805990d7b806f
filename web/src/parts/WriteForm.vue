<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { sentence, type Schemas } from '../api/client'
import Why from '../because/Why.vue'
import BySerial from './BySerial.vue'
import { holds, useCards } from './cards'
import OnARealCard from './OnARealCard.vue'

/** The card that an image goes on: chosen, looked at, and confirmed by its serial (W-3, W-4). */
const props = defineProps<{
  /** What the answers hang on besides the card. */
  about: (string | number)[]
  image: number
  check: (mediumId: number) => Promise<Schemas['WriteCheck']>
  write: (mediumId: number, confirm: string, onlyChanges: boolean) => Promise<Schemas['WorkView']>
  /** The card that is meant as long as nobody chose another; 0 for none. */
  meant: number
}>()
const emit = defineEmits<{ begun: [work: number] }>()
const queries = useQueryClient()
const mediumId = ref(0)
const confirm = ref('')
/** A card that holds an image needs only what differs (W-7); all of it is read back anyway. */
const onlyChanges = ref(true)
const offered = useCards().cards
/** The one that is meant stands first, where it is seen. */
const cards = computed(() =>
  [...offered.value].sort((a, b) => Number(b.id === props.meant) - Number(a.id === props.meant)),
)
const chosen = computed(() => cards.value.find((m) => m.id === mediumId.value))
const checked = useQuery({
  queryKey: computed(() => ['write-check', ...props.about, props.image, mediumId.value]),
  queryFn: () => props.check(mediumId.value),
  enabled: computed(() => props.image > 0 && mediumId.value > 0),
})
const c = computed(() => (mediumId.value ? checked.data.value : undefined))
const order = useMutation({
  mutationFn: () =>
    props.write(mediumId.value, confirm.value, onlyChanges.value && !!c.value?.holds),
  onSuccess: (work) => emit('begun', work.id),
  onSettled: () => queries.invalidateQueries(),
})
watch(
  [() => props.meant, cards],
  ([card, all]) => {
    if (!mediumId.value && card && all.some((m) => m.id === card)) mediumId.value = card
  },
  { immediate: true },
)
watch(mediumId, () => (confirm.value = ''))
// What is typed anew has not been refused yet.
watch([confirm, mediumId], () => order.reset())
</script>

<template>
  <div class="grid gap-3 lg:grid-cols-2">
    <section class="sheet p-5">
      <h2 class="head">
        Which card?{{ cards.every((m) => m.standIn) ? ' All of these are stand-ins' : '' }}
      </h2>
      <p class="text-sm text-slate">
        What is written to a stand-in lies in a file on the shelf{{
          cards.every((m) => m.standIn) ? '' : '; a real card says so'
        }}.
      </p>
      <div class="mt-2 space-y-2">
        <label v-for="m in cards" :key="m.id" class="flex gap-3 rounded border border-rule p-3">
          <input
            v-model="mediumId"
            type="radio"
            name="card"
            class="mt-1 h-5 w-5 shrink-0"
            :value="m.id"
          />
          <span>
            <strong class="block"
              >{{ m.name
              }}<span v-if="m.node" class="ml-2 text-lamp">◆ real, in {{ m.node }}</span></strong
            >
            <span class="figure text-sm text-slate"
              >{{ m.serial ? `serial ${m.serial} · ` : '' }}
              <Why :sum="m.sizeBecause" :text="m.size" />{{ m.measured ? '' : ' at least' }}</span
            >
            <span v-if="holds(m)" class="block text-sm text-slate">■ holds {{ holds(m) }}</span>
          </span>
        </label>
      </div>
    </section>
    <section v-if="!c" class="sheet p-5 text-slate">
      Choose the card. Everything that is on it now will be gone; the old medium is never written.
      <p v-if="checked.isError.value" class="mt-2 text-brick" role="alert">
        ✕ {{ sentence(checked.error.value) }}
      </p>
      <OnARealCard class="mt-5 text-ink" :image="image" />
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
      @submit.prevent="order.mutate()"
    >
      <h2 class="head text-brick">
        ▲ Everything on this {{ chosen?.standIn ? 'stand-in' : 'card' }} will be overwritten
      </h2>
      <p class="mt-2 text-lg">{{ c.description }}</p>
      <p class="text-[15px] text-moss">✓ <Why :sum="c.because" text="The image fits it" /></p>
      <BySerial
        v-model="confirm"
        :medium-id="c.mediumId"
        :hint="c.confirmHint"
        :letters="c.letters"
      >
        <label v-if="c.holds" class="mt-2 flex gap-2 text-[15px]">
          <input v-model="onlyChanges" type="checkbox" class="mt-1 h-5 w-5 shrink-0" />
          <span
            >Write only what differs from “{{ c.holds }}”, which it holds by its last
            read-back</span
          >
        </label>
      </BySerial>
      <p v-if="order.isError.value" class="mt-3 text-brick" role="alert">
        ✕ {{ sentence(order.error.value) }}
      </p>
      <button
        class="danger mt-4"
        :disabled="!confirm.trim() || confirm.length < c.letters || order.isPending.value"
      >
        Write this {{ chosen?.standIn ? 'stand-in' : 'card' }}
      </button>
      <p class="mt-3 text-sm text-slate">All of it is read back afterwards and compared.</p>
      <OnARealCard v-if="!chosen?.node" class="mt-4 border-t border-rule pt-3" :image="image" />
    </form>
  </div>
</template>
