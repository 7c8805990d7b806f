import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, ask } from '../api/client'
import { liveWork } from '../api/live'

/** A piece of long work that a dialog began: its number once there is one, and how it stands. */
export function useRun() {
  const work = ref(0)
  const asked = useQuery({
    queryKey: computed(() => ['work', work.value]),
    queryFn: () => ask(api.GET('/api/runs/{id}', { params: { path: { id: work.value } } })),
    enabled: computed(() => work.value > 0),
  })
  const state = computed(() => (liveWork.get(work.value) ?? asked.data.value)?.state ?? '')
  return { work, state }
}
