<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import { ended } from './endings'
import ImageChoice from './ImageChoice.vue'
import { LEVELS } from './levels'
import type { Wish } from './useRehearsal'

/** What would be otherwise: the usual changes, each run already, and any other that is set here. */
defineProps<{ view: Schemas['RehearsalView'] }>()
const wish = defineModel<Wish>({ required: true })
/** Open where there is room for it. */
const setting = ref(window.matchMedia?.('(min-width: 1024px)').matches ?? false)
const AS_IS = ''
const form = reactive({
  heads: AS_IS as number | '',
  sectors: AS_IS as number | '',
  firmware: AS_IS,
  level: AS_IS,
  calls: AS_IS,
  active: AS_IS,
  keys: AS_IS,
  past: false,
  second: 0,
})
const asIs = computed(() => !Object.keys(wish.value).length)
const same = (a: Wish, b: Wish) =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].every(
    (k) => (a[k as keyof Wish] ?? undefined) === (b[k as keyof Wish] ?? undefined),
  )
/** What of a wish was said: absent and empty are the same. */
function said(w: Wish): Wish {
  return Object.fromEntries(Object.entries(w).filter(([, v]) => v !== undefined && v !== null))
}
watch(form, (f) => {
  wish.value = said({
    heads: f.heads === '' ? undefined : f.heads,
    sectors: f.sectors === '' ? undefined : f.sectors,
    firmware: f.firmware || undefined,
    level: (f.level || undefined) as Wish['level'],
    calls: f.calls === '' ? undefined : f.calls === 'yes',
    active: f.active === '' ? undefined : Number(f.active),
    keys: f.keys.trim() || undefined,
    past: f.past || undefined,
    second: f.second || undefined,
  })
})
function take(w: Wish): void {
  Object.assign(form, {
    heads: w.heads ?? '',
    sectors: w.sectors ?? '',
    firmware: w.firmware ?? '',
    level: w.level ?? '',
    calls: w.calls === undefined || w.calls === null ? '' : w.calls ? 'yes' : 'no',
    active: '',
    keys: '',
    past: false,
    second: 0,
  })
}
</script>

<template>
  <section>
    <h3 class="head mt-3">What if</h3>
    <ul class="mt-1 text-[15px]">
      <li v-for="w in view.ifs" :key="w.what + w.how" class="border-t border-rule">
        <button
          type="button"
          class="grid w-full grid-cols-[auto_1fr_6.5rem] gap-x-3 py-0.5 text-left"
          :class="same(wish, said(w.wish)) ? 'bg-lampwash' : ''"
          :aria-pressed="same(wish, said(w.wish))"
          :title="w.sentence"
          @click="take(same(wish, said(w.wish)) ? {} : said(w.wish))"
        >
          <span class="min-w-0">{{ w.what }}</span>
          <span class="figure text-right text-sm">{{ w.how }}</span>
          <span class="whitespace-nowrap" :class="ended(w.ending).tone"
            >{{ ended(w.ending).mark }} {{ ended(w.ending).short }}</span
          >
        </button>
      </li>
    </ul>
    <p class="mt-1 flex gap-4 border-t border-rule pt-1 text-sm">
      <button
        type="button"
        class="text-river underline"
        :aria-expanded="setting"
        @click="setting = !setting"
      >
        {{ setting ? 'fewer settings' : 'set it yourself' }}
      </button>
      <button v-if="!asIs" type="button" class="text-river underline" @click="take({})">
        back to how it is
      </button>
    </p>
    <div v-if="setting" class="mt-2 grid grid-cols-2 gap-2 text-sm">
      <label
        >heads
        <input
          v-model.number.lazy="form.heads"
          class="field"
          type="number"
          min="1"
          max="255"
          :placeholder="String(view.shown.heads)"
      /></label>
      <label
        >sectors a track
        <input
          v-model.number.lazy="form.sectors"
          class="field"
          type="number"
          min="1"
          max="63"
          :placeholder="String(view.shown.sectors)"
      /></label>
      <label
        >firmware
        <select v-model="form.firmware" class="field" aria-label="Firmware">
          <option value="">as it is</option>
          <option v-for="f in view.firmwares" :key="f.key" :value="f.key">{{ f.name }}</option>
        </select></label
      >
      <label
        >processor
        <select v-model="form.level" class="field" aria-label="Processor">
          <option value="">as it is</option>
          <option v-for="(name, key) in LEVELS" :key="key" :value="key">{{ name }}</option>
        </select></label
      >
      <label
        >calls that pass an LBA
        <select v-model="form.calls" class="field" aria-label="Calls that pass an LBA">
          <option value="">as it is</option>
          <option value="yes">there</option>
          <option value="no">none</option>
        </select></label
      >
      <label
        >active entry
        <select v-model="form.active" class="field" aria-label="Active entry">
          <option value="">as it is</option>
          <option v-for="n in 4" :key="n" :value="String(n)">only {{ n }}</option>
          <option value="0">none</option>
        </select></label
      >
      <label
        >keys typed
        <input v-model.lazy="form.keys" class="field" maxlength="200" placeholder="F8 3 Enter"
      /></label>
      <label
        >second drive <ImageChoice v-model="form.second" label="Second drive" none="none"
      /></label>
      <label class="col-span-2 flex items-center gap-2 text-[15px]">
        <input v-model="form.past" type="checkbox" />follow it behind its loader’s entry
      </label>
    </div>
  </section>
</template>
