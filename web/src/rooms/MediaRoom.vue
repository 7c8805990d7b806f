<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask, sentence } from '../api/client'
import Why from '../because/Why.vue'
import BringIn from '../parts/BringIn.vue'
import NewCard from '../parts/NewCard.vue'
import { count } from '../shed/units'

const bringing = ref(false)
const adding = ref(false)
const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
const groups = computed(() => {
  const all = media.data.value ?? []
  return [
    {
      title: 'Old drives',
      note: 'stand-ins; read, never written',
      list: all.filter((m) => m.kind === 'drive'),
    },
    {
      title: 'Images brought in',
      note: 'each stands for the drive it came from',
      list: all.filter((m) => m.kind === 'image brought in'),
    },
    {
      title: 'Cards in the drawer',
      note: 'stand-ins; true and false ones',
      list: all.filter((m) => m.kind === 'card'),
    },
  ]
})
</script>

<template>
  <section>
    <div class="mb-3 flex items-start justify-between">
      <h1 class="text-xl font-bold">Media</h1>
      <div class="flex gap-3">
        <button type="button" class="plain" @click="adding = true">Add a card</button>
        <button type="button" class="next" @click="bringing = true">Bring in an image</button>
      </div>
    </div>
    <p v-if="media.isError.value" class="text-brick" role="alert">
      ✕ {{ sentence(media.error.value) }}
    </p>
    <div v-for="g in groups" :key="g.title" class="sheet mb-3">
      <h2 class="px-4 pt-3 pb-1">
        <strong>{{ g.title }}</strong> <span class="text-sm text-slate">{{ g.note }}</span>
      </h2>
      <p v-if="!g.list.length" class="px-4 pb-3 text-slate">None yet.</p>
      <table v-else class="w-full">
        <tbody>
          <tr v-for="m in g.list" :key="m.id" class="border-t border-rule">
            <td class="px-4 py-2">{{ m.name }}</td>
            <td class="figure w-48 text-sm text-slate">{{ m.serial }}</td>
            <td class="figure w-44 text-right">{{ count(m.sectors) }} sectors</td>
            <td class="figure w-36 px-4 text-right"><Why :sum="m.sizeBecause" :text="m.size" /></td>
            <td
              class="w-36 pr-4 text-right text-sm"
              :class="m.measured ? 'text-moss' : 'text-slate'"
            >
              {{ m.measured ? '✓ measured' : '· by its label' }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <BringIn v-if="bringing" @close="bringing = false" />
    <NewCard v-if="adding" @close="adding = false" />
  </section>
</template>
