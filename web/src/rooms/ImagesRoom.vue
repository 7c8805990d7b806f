<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, nextTick, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, ask, sentence, type Image } from '../api/client'
import Downloads from '../parts/Downloads.vue'
import CrossingLines from '../crossing/CrossingLines.vue'
import Contents from '../parts/Contents.vue'
import EmptyImage from '../parts/EmptyImage.vue'
import ErrandLine from '../parts/ErrandLine.vue'
import FindFile from '../parts/FindFile.vue'
import ImageGlance from '../parts/ImageGlance.vue'
import RestoreDialog from '../parts/RestoreDialog.vue'
import SpareDialog from '../parts/SpareDialog.vue'
import { useErrand } from '../parts/useErrand'
import { count } from '../shed/units'
import { useKept } from './useKept'

const route = useRoute()
// An image that a link names is open when the room is entered.
const open = ref(Number(route.query.at) || 0)
const restoring = ref(0)
const emptying = ref(false)
const sparing = ref(false)
const at = (id: number) => ({ params: { path: { id } } })
const { naming, name, rename, remove } = useKept<Image>('images', {
  rename: (id, name) => ask(api.PUT('/api/images/{id}', { ...at(id), body: { name } })),
  remove: (id) => ask(api.DELETE('/api/images/{id}', at(id))),
  back: (id) => ask(api.POST('/api/images/{id}/back', at(id))),
  gone: (kept) => `“${kept.name}” is out of sight; its bytes are kept.`,
})
const { errand: checking, run: runCheck, stop: stopCheck } = useErrand()
const verify = useMutation({
  mutationFn: async () => {
    await runCheck(ask(api.POST('/api/shelf/check')))
    return ask(api.GET('/api/shelf/check'))
  },
})
const comparing = ref({ a: 0, b: 0 })
const { errand, run, stop } = useErrand()
const against = useQuery({
  queryKey: computed(() => ['against', comparing.value.a, comparing.value.b]),
  queryFn: async () => {
    const pair = { params: { path: { id: comparing.value.a, other: comparing.value.b } } }
    await run(ask(api.POST('/api/images/{id}/against/{other}', pair)))
    return ask(api.GET('/api/images/{id}/against/{other}', pair))
  },
  retry: false,
  enabled: computed(() => comparing.value.a > 0 && comparing.value.b > 0),
})
/** Opens an image that was found and brings it into sight. */
async function seek(id: number): Promise<void> {
  open.value = id
  await nextTick()
  document.getElementById(`image-${id}`)?.scrollIntoView({ block: 'start' })
}
const images = useQuery({ queryKey: ['images'], queryFn: () => ask(api.GET('/api/images')) })
</script>

<template>
  <section>
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h1 class="text-xl font-bold">Images on the shelf</h1>
      <span class="grow" />
      <button type="button" class="plain" @click="emptying = true">Empty image</button>
      <button type="button" class="plain" @click="sparing = true">Get room back</button>
      <button
        type="button"
        class="plain"
        :disabled="verify.isPending.value"
        @click="verify.mutate()"
      >
        Check the shelf
      </button>
    </div>
    <ErrandLine
      v-if="verify.isPending.value && checking"
      class="mb-3"
      :errand="checking"
      title="Checking the shelf"
      @stop="stopCheck"
    />
    <section v-if="verify.data.value" class="sheet mb-3 p-4" role="status">
      <p class="font-bold" :class="verify.data.value.spoiled.length ? 'text-brick' : 'text-moss'">
        {{ verify.data.value.spoiled.length ? '✕' : '✓' }} {{ verify.data.value.sentence }}
      </p>
      <p v-for="x in verify.data.value.spoiled" :key="x.image">{{ x.name }}: {{ x.why }}.</p>
    </section>
    <p v-if="verify.isError.value || remove.isError.value" class="mb-3 text-brick" role="alert">
      ✕ {{ sentence(verify.error.value ?? remove.error.value) }}
    </p>
    <p v-if="images.isError.value" class="text-brick" role="alert">
      ✕ {{ sentence(images.error.value) }}
    </p>
    <div v-else-if="images.data.value?.length === 0" class="sheet p-8">
      <h2 class="text-lg font-bold">The shelf is empty</h2>
      <p>An image comes here when a medium is rescued or a new one is built and proved.</p>
      <RouterLink class="next mt-4 inline-block" to="/jobs">To the jobs</RouterLink>
    </div>
    <div
      v-if="images.data.value?.length"
      class="mb-3 grid grid-cols-1 items-start gap-3 lg:grid-cols-2"
    >
      <section class="sheet p-4">
        <h2 class="head mb-1">Find a disk by a file on it</h2>
        <FindFile label="Part of a file's name" choose="show" @choose="seek($event.image)" />
      </section>
      <section v-if="images.data.value.length > 1" class="sheet p-4">
        <h2 class="head">Compare two images</h2>
        <div class="mt-1 flex flex-wrap gap-3">
          <select
            v-for="side in ['a', 'b'] as const"
            :key="side"
            v-model="comparing[side]"
            class="field w-auto! min-w-0 grow max-sm:basis-full"
            :aria-label="side === 'a' ? 'One image' : 'The other image'"
          >
            <option :value="0">{{ side === 'a' ? 'one image' : 'the other' }}</option>
            <option v-for="i in images.data.value" :key="i.id" :value="i.id">
              {{ i.name }}, {{ i.size }}
            </option>
          </select>
        </div>
        <ErrandLine
          v-if="against.isFetching.value && errand"
          :errand="errand"
          title="Comparing"
          @stop="stop"
        />
        <template v-else-if="against.data.value">
          <p
            class="mt-2 font-bold"
            :class="against.data.value.identical ? 'text-moss' : 'text-ink'"
            role="status"
          >
            {{ against.data.value.identical ? '✓' : '≠' }} {{ against.data.value.sentence }}
          </p>
          <ul class="figure mt-1 max-h-36 overflow-y-auto text-sm">
            <li v-for="r in against.data.value.ranges" :key="r.start">
              {{ count(r.start) }}, {{ count(r.length) }}
              {{ r.length === 1 ? 'sector' : 'sectors' }}
              <span class="text-slate">{{ r.place }}</span>
            </li>
          </ul>
          <section v-for="(v, i) in against.data.value.volumes" :key="i" class="mt-3">
            <h3 class="head">File by file{{ v.name ? `, ${v.name}` : '' }}</h3>
            <p :class="v.lists.length ? '' : 'text-moss'">
              {{ v.lists.length ? '≠' : '✓' }} {{ v.sentence }}
            </p>
            <p v-for="l in v.lists" :key="l.title" class="text-[15px]">
              <span class="text-slate">{{ l.title }}</span>
              <span class="figure ml-2">{{ l.first.slice(0, 12).join(' · ') }}</span>
              <span v-if="l.count > 12" class="text-slate">
                and {{ count(l.count - 12) }} more</span
              >
            </p>
          </section>
        </template>
        <p v-if="against.isError.value" class="mt-2 text-brick" role="alert">
          ✕ {{ sentence(against.error.value) }}
          <button type="button" class="plain ml-2" @click="against.refetch()">Compare again</button>
        </p>
      </section>
    </div>
    <CrossingLines class="mb-3" />
    <article
      v-for="i in images.data.value"
      :id="`image-${i.id}`"
      :key="i.id"
      class="sheet mb-2 p-4"
    >
      <div class="flex flex-wrap items-baseline justify-between gap-3">
        <input
          v-if="naming === i.id"
          v-model="name"
          class="field w-80!"
          maxlength="160"
          :aria-label="`Name of ${i.name}`"
          @keydown.enter="rename.mutate(i.id)"
          @keydown.esc="naming = 0"
          @blur="rename.mutate(i.id)"
        />
        <strong v-else>{{ i.name }}</strong>
        <span class="figure">{{ i.size }} · {{ count(i.sectors) }} sectors</span>
      </div>
      <p class="text-sm text-slate">
        from {{ i.origin }} ·
        <span :class="i.lost ? 'text-brick' : 'text-moss'">{{
          i.lost ? `▲ ${count(i.lost)} sectors lost` : '✓ whole'
        }}</span>
      </p>
      <ImageGlance :image="i.id" />
      <p class="figure mt-1 text-sm break-all text-slate">{{ i.sha256 }}</p>
      <div class="mt-1 flex flex-wrap items-center justify-between gap-3">
        <Downloads class="text-[15px]" :image="i.id" :sectors="i.sectors" />
        <span class="grow" />
        <button
          type="button"
          class="text-river underline"
          @click="((naming = i.id), (name = i.name))"
        >
          rename
        </button>
        <button type="button" class="text-river underline" @click="remove.mutate(i)">
          take away
        </button>
        <button type="button" class="plain" @click="restoring = i.id">Put on a card</button>
        <button
          type="button"
          class="plain"
          :aria-expanded="open === i.id"
          @click="open = open === i.id ? 0 : i.id"
        >
          {{ open === i.id ? 'Close it' : 'Look inside' }}
        </button>
      </div>
      <Contents
        v-if="open === i.id"
        class="mt-3"
        :image="i.id"
        :sectors="i.sectors"
        @made="open = $event"
      />
    </article>
    <EmptyImage v-if="emptying" @close="emptying = false" />
    <SpareDialog v-if="sparing" @close="sparing = false" />
    <RestoreDialog v-if="restoring" :image="restoring" @close="restoring = 0" />
  </section>
</template>
