<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, sentence, type Medium, type Schemas } from '../api/client'
import { count } from '../shed/units'

/** What is plugged in now at the nodes that this shed may open; it comes and goes while one looks. */
const props = defineProps<{ taken: Medium[] }>()
const LOOK_MS = 3000
const queries = useQueryClient()
const devices = useQuery({
  queryKey: ['devices'],
  queryFn: () => ask(api.GET('/api/media/devices')),
  refetchInterval: LOOK_MS,
})
const take = useMutation({
  mutationFn: ({ d, card }: { d: Schemas['ReaderView']; card: boolean }) =>
    ask(
      api.POST('/api/media/devices', {
        body: {
          node: d.node,
          name: `${card ? 'card' : 'drive'} in ${d.node.split('/').pop()}`,
          card,
        },
      }),
    ),
  onSettled: () => queries.invalidateQueries({ queryKey: ['media'] }),
})
/** Nothing of a medium is read before somebody asks: it may be a failing drive. */
const look = useMutation({
  mutationFn: (d: Schemas['ReaderView']) =>
    ask(api.GET('/api/media/devices/look', { params: { query: { node: d.node } } })),
})
const rows = computed(() =>
  (devices.data.value ?? []).map((d) => ({
    ...d,
    known: props.taken.find((m) => m.node === d.node && m.sectors === d.sectors)?.name,
  })),
)
</script>

<template>
  <p v-if="devices.isSuccess.value && !rows.length" class="mb-3 text-sm text-slate">
    No card reader is open to this shed.
    <span class="figure">./shed reader removable</span>, started beside it, opens every one that is
    marked removable; the path of a node opens that one.
  </p>
  <section
    v-else-if="rows.length || devices.isError.value"
    class="sheet mb-3"
    aria-label="Plugged in now"
  >
    <h2 class="px-4 pt-3 pb-1">
      <strong>Plugged in now</strong>
      <span class="text-sm text-slate"> at the nodes that this shed may open</span>
    </h2>
    <p v-if="devices.isError.value" class="px-4 pb-3 text-brick" role="alert">
      ✕ {{ sentence(devices.error.value) }}
    </p>
    <p v-if="take.isError.value" class="px-4 pb-2 text-brick" role="alert">
      ✕ {{ sentence(take.error.value) }}
    </p>
    <ul>
      <li
        v-for="d in rows"
        :key="d.node"
        class="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-t border-rule px-4 py-2"
      >
        <strong class="figure w-36">{{ d.node }}</strong>
        <span class="min-w-0 flex-1 basis-72">
          {{ d.says }}
          <span
            v-if="look.variables.value?.node === d.node"
            class="block text-sm"
            :class="look.isError.value ? 'text-brick' : 'text-slate'"
            role="status"
            >{{
              look.isError.value
                ? `✕ ${sentence(look.error.value)}`
                : `on it: ${look.data.value?.text ?? 'looking …'}`
            }}</span
          >
          <button
            v-else-if="d.sectors"
            type="button"
            class="block text-sm text-river underline"
            @click="look.mutate(d)"
          >
            what is on it?
          </button>
          <span v-for="r in d.refusals" :key="r" class="block text-sm text-brick"
            >✕ not written: {{ r }}</span
          >
        </span>
        <span v-if="d.sectors" class="figure text-sm text-slate"
          >{{ count(d.sectors) }} sectors</span
        >
        <span v-if="d.known" class="text-sm text-moss">✓ taken as {{ d.known }}</span>
        <span v-else-if="d.sectors" class="flex gap-2 text-sm">
          <button
            type="button"
            class="plain"
            :disabled="!!d.refusals.length || take.isPending.value"
            @click="take.mutate({ d, card: true })"
          >
            Take it as a card
          </button>
          <button
            type="button"
            class="plain"
            :disabled="take.isPending.value"
            @click="take.mutate({ d, card: false })"
          >
            As an old drive
          </button>
        </span>
      </li>
    </ul>
  </section>
</template>
