import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask } from '../api/client'

/** The start of an image of a job, as it was run; asked for once however many show it. */
export function useRehearsal(of: () => { job: number; image: number; card: boolean }) {
  return useQuery({
    queryKey: computed(() => ['rehearsal', of().job, of().image, of().card]),
    queryFn: () => {
      const { job, image, card } = of()
      return ask(
        api.GET('/api/jobs/{id}/rehearsal', {
          params: { path: { id: job }, query: { image, card } },
        }),
      )
    },
    enabled: computed(() => of().image > 0),
  })
}
