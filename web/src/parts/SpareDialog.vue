<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence } from '../api/client'
import Dialog from '../shed/Dialog.vue'
import { count, sizeIn, useUnit } from '../shed/units'

/** Room is got back of what was taken away and nothing needs: for good, so it is typed. */
const emit = defineEmits<{ close: [] }>()
const queries = useQueryClient()
const unit = useUnit()
const spare = useQuery({
  queryKey: ['images', 'spare'],
  queryFn: () => ask(api.GET('/api/shelf/spare')),
})
const away = computed(() => spare.data.value?.filter((i) => i.away) ?? [])
const idle = computed(() => spare.data.value?.filter((i) => !i.away) ?? [])
const kept = ref<number[]>([])
const going = computed(() => away.value.filter((i) => !kept.value.includes(i.id)))
const bytes = computed(() => going.value.reduce((all, i) => all + i.bytes, 0))
const confirm = ref('')
const give = useMutation({
  mutationFn: () =>
    ask(
      api.POST('/api/shelf/spare/give-back', {
        body: { images: going.value.map((i) => i.id), confirm: confirm.value },
      }),
    ),
  onSuccess: () => (confirm.value = ''),
  onSettled: () => queries.invalidateQueries({ queryKey: ['images'] }),
})
function keep(id: number, stays: boolean): void {
  kept.value = stays ? [...kept.value, id] : kept.value.filter((x) => x !== id)
}
</script>

<template>
  <Dialog title="Get room back" wide @close="emit('close')">
    <p v-if="spare.isPending.value" class="text-slate">Asking who needs what …</p>
    <p v-else-if="spare.isError.value" class="text-brick" role="alert">
      ✕ {{ sentence(spare.error.value) }}
    </p>
    <template v-else>
      <div v-if="give.data.value" class="mb-4" role="status">
        <p class="font-bold text-moss">✓ {{ give.data.value.sentence }}</p>
        <p v-for="s in give.data.value.stayed" :key="s" class="text-brick">✕ {{ s }}</p>
      </div>
      <h3 class="head">Taken away, and nothing needs them</h3>
      <p v-if="!away.length" class="text-slate">
        ○ None. What is taken away under Images, and is in no job, recipe, crossing or card, stands
        here.
      </p>
      <template v-else>
        <p class="figure text-3xl font-bold">{{ sizeIn(bytes, unit.unit) }}</p>
        <p class="text-sm text-slate">at most: what is zeros in them takes no room</p>
        <ul class="mt-2 max-h-56 overflow-y-auto">
          <li v-for="i in away" :key="i.id" class="border-t border-rule py-1">
            <label class="flex items-baseline gap-3">
              <input
                type="checkbox"
                :checked="!kept.includes(i.id)"
                @change="keep(i.id, !($event.target as HTMLInputElement).checked)"
              />
              <span class="min-w-0 grow"
                >{{ i.name }} <span class="text-sm text-slate">from {{ i.origin }}</span></span
              >
              <span class="figure">{{ i.size }}</span>
            </label>
          </li>
        </ul>
        <form class="mt-3" @submit.prevent="give.mutate()">
          <p class="text-brick">
            ▲ Their bytes are gone for good; no undo brings them back. Their names stay where they
            are written.
          </p>
          <div class="mt-2 flex flex-wrap items-center gap-3">
            <label
              >type how many go, <span class="figure">{{ going.length }}</span>
              <input v-model.trim="confirm" class="field figure ml-2 w-20!" inputmode="numeric"
            /></label>
            <button
              type="submit"
              class="plain"
              :disabled="!going.length || confirm !== String(going.length) || give.isPending.value"
            >
              Give them back for good
            </button>
          </div>
        </form>
      </template>
      <p v-if="give.isError.value" class="mt-2 text-brick" role="alert">
        ✕ {{ sentence(give.error.value) }}
      </p>
      <template v-if="idle.length">
        <h3 class="head mt-5">
          In sight, and nothing needs {{ idle.length === 1 ? 'it' : 'them' }}
        </h3>
        <p class="text-sm text-slate">
          {{ count(idle.length) }} in no job, recipe, crossing or card. To get their room back take
          them away first.
        </p>
        <ul class="mt-1 max-h-40 overflow-y-auto text-[15px]">
          <li v-for="i in idle" :key="i.id" class="flex gap-3 border-t border-rule py-1">
            <span class="min-w-0 grow">{{ i.name }}</span>
            <span class="figure">{{ i.size }}</span>
          </li>
        </ul>
      </template>
    </template>
  </Dialog>
</template>
