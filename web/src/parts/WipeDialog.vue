<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, ask, sentence, type Schemas } from '../api/client'
import Dialog from '../shed/Dialog.vue'
import { useSettings } from '../shed/settings'
import BySerial from './BySerial.vue'
import CertificateLines from './CertificateLines.vue'
import WorkPanel from './WorkPanel.vue'
import { useRun } from './useRun'

/** Z-3: a medium that is done with is overwritten, read back and certified. */
const props = defineProps<{ mediumId: number; name: string }>()
const emit = defineEmits<{ close: [] }>()
const queries = useQueryClient()
const school = ref<Schemas['WipeOrder']['school']>('NOISE')
const whole = ref(true)
const confirm = ref('')
const by = ref(useSettings().author)
/** Somebody looked at what is on it, and nobody needs that. */
const nothingNeeded = ref(false)
const { work, state } = useRun()
const at = computed(() => ({ params: { path: { id: props.mediumId } } }))
const checked = useQuery({
  queryKey: computed(() => ['wipe', props.mediumId]),
  queryFn: () => ask(api.GET('/api/media/{id}/wipe', at.value)),
})
const c = computed(() => checked.data.value)
const wipe = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/media/{id}/wipe', {
        ...at.value,
        body: {
          confirm: confirm.value,
          school: school.value,
          whole: whole.value,
          by: by.value,
          nothingNeeded: nothingNeeded.value,
        },
      }),
    ),
  onSuccess: (w) => (work.value = w.id),
  onSettled: () => queries.invalidateQueries(),
})
watch(state, () => queries.invalidateQueries({ queryKey: ['certificates'] }))
watch(confirm, () => wipe.reset())
const certificates = useQuery({
  queryKey: ['certificates'],
  queryFn: () => ask(api.GET('/api/certificates')),
  enabled: computed(() => state.value === 'DONE'),
})
const given = computed(() => certificates.data.value?.find((x) => x.mediumId === props.mediumId))
const SCHOOLS = [
  {
    key: 'NOISE',
    name: 'Noise, once',
    says: 'every sector gets its own, so a card that wraps is told too',
  },
  { key: 'ZEROS', name: 'Zeros, once', says: 'it is empty to whoever finds it' },
  {
    key: 'NOISE_ZEROS',
    name: 'Noise, then zeros',
    says: 'both, in twice the time; some house rules ask for two passes',
  },
] as const
</script>

<template>
  <Dialog :title="`Wipe ${name}`" wide @close="emit('close')">
    <template v-if="!work">
      <p v-if="checked.isPending.value" class="text-slate">Looking whether its image is proved …</p>
      <div v-else-if="c?.refusals.length" role="alert">
        <p v-for="r in c.refusals" :key="r" class="mt-1 text-lg text-brick">✕ {{ r }}</p>
        <p class="mt-3 text-slate">Nothing is wiped that may be the only copy of anything.</p>
      </div>
      <form v-else-if="c" @submit.prevent="wipe.mutate()">
        <p class="text-lg">{{ c.description }}</p>
        <p v-if="c.kept.length" class="text-[15px] text-moss">
          ✓ On the shelf: {{ c.kept.join(', ') }}
        </p>
        <p v-for="w in c.warnings" :key="w" class="text-[15px] text-lamp">▲ {{ w }}</p>
        <div v-if="c.unknown" class="mt-2 rounded bg-lampwash px-4 py-2.5">
          <p>
            <span class="text-lamp">▲</span> The shed keeps no image of what is on it:
            <strong>{{ c.unknown }}</strong>. It may be the only copy. Where somebody may need it,
            keep it packed first, by the link below, and bring that in here.
          </p>
          <label class="mt-1.5 flex gap-2">
            <input v-model="nothingNeeded" type="checkbox" class="mt-1 h-5 w-5 shrink-0" />
            I looked at it, and nobody needs what is on it.
          </label>
        </div>
        <div class="mt-3 grid gap-x-6 gap-y-3 sm:grid-cols-2">
          <fieldset class="space-y-1">
            <legend class="head">Overwrite with</legend>
            <label v-for="s in SCHOOLS" :key="s.key" class="flex gap-2">
              <input
                v-model="school"
                type="radio"
                name="school"
                :value="s.key"
                class="mt-1 h-5 w-5 shrink-0"
              />
              <span
                >{{ s.name }} <span class="block text-sm text-slate">{{ s.says }}</span></span
              >
            </label>
          </fieldset>
          <fieldset class="space-y-1">
            <legend class="head">Read back</legend>
            <label class="flex gap-2">
              <input
                v-model="whole"
                type="radio"
                name="whole"
                :value="true"
                class="mt-1 h-5 w-5 shrink-0"
              />
              <span
                >All of it
                <span class="block text-sm text-slate"
                  >each sector is compared; its digest stands on the certificate</span
                ></span
              >
            </label>
            <label class="flex gap-2">
              <input
                v-model="whole"
                type="radio"
                name="whole"
                :value="false"
                class="mt-1 h-5 w-5 shrink-0"
              />
              <span
                >A sample
                <span class="block text-sm text-slate"
                  >6 905 sectors by chance: had one in 1 000 kept its content, 999 of 1 000 samples
                  would meet it</span
                ></span
              >
            </label>
          </fieldset>
        </div>
        <div class="mt-3 rounded border-[3px] border-brick p-4">
          <p class="font-bold text-brick">▲ All that is on it will be gone for good.</p>
          <BySerial
            v-model="confirm"
            :medium-id="c.mediumId"
            :hint="c.confirmHint"
            :letters="c.letters"
            :kept="c.kept.length > 0"
          >
            <label class="mt-2 block text-[15px]">
              Who wipes it, for the certificate
              <input v-model="by" class="field mt-1 block w-72!" maxlength="80" />
            </label>
          </BySerial>
          <p v-if="wipe.isError.value" class="mt-2 text-brick" role="alert">
            ✕ {{ sentence(wipe.error.value) }}
          </p>
          <button
            class="danger mt-3"
            :disabled="
              !confirm.trim() ||
              confirm.length < c.letters ||
              (!!c.unknown && !nothingNeeded) ||
              wipe.isPending.value
            "
          >
            Wipe it
          </button>
        </div>
      </form>
      <p v-if="checked.isError.value" class="text-brick" role="alert">
        ✕ {{ sentence(checked.error.value) }}
      </p>
    </template>
    <template v-else-if="state === 'DONE'">
      <CertificateLines v-if="given" :certificate="given" large />
      <p v-else class="text-slate">Writing the certificate …</p>
      <button type="button" class="next mt-4" @click="emit('close')">Done</button>
    </template>
    <p v-else-if="state === 'CANCELLED'" class="text-brick" role="status">
      ✕ Cancelled: it is overwritten to where this came, and nothing is certified.
    </p>
    <template v-else>
      <WorkPanel :work-id="work" title="Wiping" paused="Go on wiping" />
      <p v-if="state !== 'PAUSED'" class="mt-2 text-sm text-slate">
        When this is closed it goes on; it is found under Media.
      </p>
    </template>
  </Dialog>
</template>
