<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { api, ask, sentence, type Job } from '../../api/client'
import ErrandLine from '../../parts/ErrandLine.vue'
import { useErrand } from '../../parts/useErrand'
import { count, inUnit } from '../../shed/units'
import { useGoOnFrom } from './goOnFrom'

/** Where no table names the volumes any more: they are looked for, and a copy gets a table that names them. */
const props = defineProps<{ job: Job; image: number }>()
const queries = useQueryClient()
const chosen = ref<number[]>([])
const path = { id: props.image }
const looking = useErrand()
const look = useMutation({
  mutationFn: async () => {
    await looking.run(ask(api.POST('/api/images/{id}/lost-volumes', { params: { path } })))
    return ask(api.GET('/api/images/{id}/lost-volumes', { params: { path } }))
  },
  onSuccess: (l) =>
    (chosen.value = l.found
      .filter((f) => f.listed)
      .slice(0, 4)
      .map((f) => f.start)),
})
const making = useErrand()
const { goOn } = useGoOnFrom(() => props.job)
const make = useMutation({
  mutationFn: async () => {
    const made = await making.run(
      ask(
        api.POST('/api/images/{id}/lost-volumes/table', {
          params: { path },
          body: { starts: [...chosen.value].sort((a, b) => a - b) },
        }),
      ),
    )
    await queries.invalidateQueries({ queryKey: ['images'] })
    return made
  },
})
</script>

<template>
  <section class="sheet p-4">
    <h2 class="head">Look for volumes without a table</h2>
    <p class="mt-1 text-[15px]">
      The image is read from end to end for boot sectors, their backups, pairs of FATs, root blocks
      and CP/M folders. What is found goes into the table of a copy; this image stays as it is.
    </p>
    <ErrandLine
      v-if="look.isPending.value && looking.errand.value"
      class="mt-2"
      :errand="looking.errand.value"
      title="Looking for volumes"
      @stop="looking.stop"
    />
    <button v-else-if="!look.data.value" type="button" class="next mt-3" @click="look.mutate()">
      Look for volumes
    </button>
    <template v-else>
      <p v-if="!look.data.value.found.length" class="mt-2">
        None was found. Look whether it is the right image, whole and unpacked.
      </p>
      <label
        v-for="f in look.data.value.found"
        :key="f.start"
        class="mt-2 flex gap-3 rounded border border-rule p-2"
      >
        <input
          v-model="chosen"
          type="checkbox"
          class="mt-1 h-5 w-5"
          :value="f.start"
          :disabled="!f.listed"
        />
        <span>
          <strong class="figure">{{ f.kind }} {{ f.label }} · {{ inUnit(f.length, 'MiB') }}</strong>
          <span class="block text-[15px]">
            <template v-if="f.listed"
              >{{ count(f.whole) }} of {{ count(f.files) }}
              {{ f.files === 1 ? 'file comes' : 'files come' }} whole</template
            >
            <template v-else
              >recognised; its files are not listed here, its sectors are kept</template
            >
          </span>
          <span class="figure block text-sm text-slate"
            >from sector {{ count(f.start) }}, by {{ f.evidence }}</span
          >
        </span>
      </label>
      <ErrandLine
        v-if="make.isPending.value && making.errand.value"
        class="mt-2"
        :errand="making.errand.value"
        title="The copy with a table"
        @stop="making.stop"
      />
      <template v-else-if="make.data.value">
        <p class="mt-2 text-moss" role="status">✓ The copy lies on the shelf, under Images.</p>
        <button type="button" class="next mt-2" @click="goOn.mutate(make.data.value!)">
          Go on with it in this job
        </button>
      </template>
      <button
        v-else-if="look.data.value.found.length"
        type="button"
        class="next mt-3"
        :disabled="!chosen.length || chosen.length > 4"
        @click="make.mutate()"
      >
        Make a copy with a table of
        {{ chosen.length === 1 ? 'this one' : `these ${chosen.length}` }}
      </button>
    </template>
    <p
      v-if="look.isError.value || make.isError.value || goOn.isError.value"
      class="mt-2 text-brick"
      role="alert"
    >
      ✕ {{ sentence(look.error.value ?? make.error.value ?? goOn.error.value) }}
    </p>
  </section>
</template>
