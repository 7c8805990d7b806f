<script setup lang="ts">
import {
  ArchiveBoxIcon,
  CalculatorIcon,
  CircleStackIcon,
  ComputerDesktopIcon,
  CpuChipIcon,
  PuzzlePieceIcon,
  QueueListIcon,
} from '@heroicons/vue/24/outline'
import { useTitle } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { connected } from './api/live'
import BecauseDrawer from './because/BecauseDrawer.vue'
import FindBox from './shed/FindBox.vue'
import KeysDialog from './shed/KeysDialog.vue'
import LogLine from './shed/LogLine.vue'
import SettingsDialog from './shed/SettingsDialog.vue'
import UndoBar from './shed/UndoBar.vue'
import { useCrumbs } from './shed/crumbs'
import { useKeys } from './shed/keys'
import { useSettings } from './shed/settings'
import { useUnit } from './shed/units'

const route = useRoute()
const router = useRouter()
const unit = useUnit()
const settings = useSettings()
const crumbs = useCrumbs()
const showKeys = ref(false)
const showSettings = ref(false)

const rooms = [
  { to: '/jobs', name: 'Jobs', icon: QueueListIcon },
  { to: '/machines', name: 'Machines', icon: ComputerDesktopIcon },
  { to: '/media', name: 'Media', icon: CircleStackIcon },
  { to: '/images', name: 'Images', icon: ArchiveBoxIcon },
  { to: '/parts', name: 'Parts', icon: PuzzlePieceIcon },
  { to: '/reckoner', name: 'Reckoner', icon: CalculatorIcon },
  { to: '/roms', name: 'ROM bench', icon: CpuChipIcon },
]
const trail = computed(() => crumbs.trail ?? [{ text: String(route.meta.title ?? ''), to: '' }])
// What is deepest comes first: a narrow tab shows no more than that.
useTitle(
  computed(() => [...trail.value.map((c) => c.text)].reverse().concat('Lantern Shed').join(' · ')),
)

useKeys([
  { key: 'U', says: 'next unit: MiB, MB, sectors, C/H/S', does: () => unit.next() },
  { key: '?', says: 'all keys', does: () => (showKeys.value = true) },
  { key: 'H', says: 'to the jobs', does: () => void router.push('/jobs') },
])
</script>

<template>
  <div class="flex h-dvh flex-col min-[700px]:flex-row">
    <a
      href="#work"
      class="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2"
      >To the work</a
    >
    <nav
      class="flex w-full shrink-0 justify-around bg-rail py-1 text-[#efe7d8] min-[700px]:w-[76px] min-[700px]:flex-col min-[700px]:justify-start min-[700px]:gap-1 min-[700px]:py-3"
      aria-label="Rooms"
    >
      <RouterLink
        v-for="r in rooms"
        :key="r.to"
        :to="r.to"
        class="mx-1 flex flex-col items-center gap-1 rounded border-l-4 border-transparent py-2 text-center text-[13px] leading-tight"
        :class="route.path.startsWith(r.to) ? 'border-l-lampfill! bg-white/15 font-bold' : ''"
      >
        <component :is="r.icon" class="h-6 w-6" aria-hidden="true" />{{ r.name }}
      </RouterLink>
    </nav>
    <div class="flex min-w-0 grow flex-col overflow-hidden">
      <header class="flex h-12 shrink-0 items-center gap-4 border-b border-rule px-5">
        <p class="min-w-0 grow truncate" aria-label="Where you are">
          <template v-for="(c, i) in trail" :key="i">
            <span v-if="i > 0" class="px-1 text-slate">/</span>
            <RouterLink v-if="c.to" :to="c.to" class="text-slate underline hover:text-river">{{
              c.text
            }}</RouterLink>
            <strong v-else>{{ c.text }}</strong>
          </template>
        </p>
        <p v-if="!connected" class="text-sm font-bold text-brick" role="status">
          ✕ the shed does not answer
        </p>
        <FindBox />
        <button
          type="button"
          class="hidden items-center gap-2 sm:flex"
          title="Next unit"
          @click="unit.next()"
        >
          <span class="figure text-sm">{{ unit.unit }}</span><span class="key">U</span>
        </button>
        <button
          type="button"
          class="whitespace-nowrap text-slate hover:text-river"
          @click="showSettings = true"
        >
          {{ settings.author || 'your name' }}
        </button>
      </header>
      <div class="flex min-h-0 grow gap-3 overflow-hidden p-4">
        <main id="work" class="relative min-w-0 grow overflow-y-auto" tabindex="-1">
          <RouterView />
        </main>
        <BecauseDrawer />
      </div>
      <UndoBar />
      <LogLine />
    </div>
    <KeysDialog v-if="showKeys" @close="showKeys = false" />
    <SettingsDialog v-if="showSettings" @close="showSettings = false" />
  </div>
</template>
