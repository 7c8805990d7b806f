<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask } from '../api/client'
import ImageChoice from './ImageChoice.vue'
import Dialog from '../shed/Dialog.vue'
import WorkPanel from './WorkPanel.vue'
import WriteForm from './WriteForm.vue'
import { useRun } from './useRun'

/** W-8: an image of the shelf goes on a card as it is, without a job; its sectors are the proof. */
const props = defineProps<{ image?: number; card?: number }>()
const emit = defineEmits<{ close: [] }>()
const image = ref(props.image ?? 0)
const { work, state } = useRun()
const images = useQuery({ queryKey: ['images'], queryFn: () => ask(api.GET('/api/images')) })
const chosen = computed(() => images.data.value?.find((i) => i.id === image.value))
const at = computed(() => ({ path: { id: image.value } }))
const check = (mediumId: number) =>
  ask(api.GET('/api/images/{id}/restore-check', { params: { ...at.value, query: { mediumId } } }))
const write = (mediumId: number, confirm: string, onlyChanges: boolean) =>
  ask(
    api.POST('/api/images/{id}/restore', {
      params: at.value,
      body: { mediumId, confirm, onlyChanges },
    }),
  )
</script>

<template>
  <Dialog title="Put an image on a card as it is" wide @close="emit('close')">
    <p class="text-slate">
      Every sector as it lies on the shelf; that all of them read back is the whole proof. Nothing
      of it is laid out anew, and whether it starts is not asked.
    </p>
    <template v-if="!work">
      <label class="mt-3 block">
        <span class="head">The image</span>
        <ImageChoice v-model="image" class="mt-1" none="choose an image" required />
      </label>
      <WriteForm
        v-if="image"
        class="mt-3"
        :about="['restore']"
        :image="image"
        :check="check"
        :write="write"
        :meant="card ?? 0"
        @begun="work = $event"
      />
    </template>
    <template v-else>
      <p v-if="state === 'DONE'" class="mt-3 text-2xl font-bold text-moss" role="status">
        ✓ “{{ chosen?.name }}” reads back identical from the card.
      </p>
      <p v-else-if="state === 'CANCELLED'" class="mt-3 text-xl text-brick" role="status">
        ✕ Cancelled: the card holds a part of it and is of no use until it is written again.
      </p>
      <WorkPanel v-else class="mt-3" :work-id="work" title="Restore" paused="Go on writing" />
      <button v-if="state === 'DONE'" type="button" class="next mt-4" @click="emit('close')">
        Done
      </button>
      <p v-else-if="state !== 'CANCELLED'" class="mt-2 text-sm text-slate">
        When this is closed it goes on; it is found again under Media.
      </p>
    </template>
  </Dialog>
</template>
