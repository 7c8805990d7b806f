import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask } from '../api/client'

/** The pictures of a job, by the place they belong to. */
export function usePictures(job: () => number) {
  const all = useQuery({
    queryKey: computed(() => ['pictures', job()]),
    queryFn: () => ask(api.GET('/api/jobs/{job}/pictures', { params: { path: { job: job() } } })),
    enabled: computed(() => job() > 0),
  })
  return (place: string) => (all.data.value ?? []).filter((p) => p.place === place)
}
