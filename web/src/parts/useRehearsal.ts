import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, type Schemas } from '../api/client'

/** What is to be otherwise in a run; what is absent stays as it is. */
export type Wish = Partial<Schemas['StartWish']>

/**
 * The start of an image of a job, as it was run; asked for once however many show it.
 *
 * @param of which bytes, and what is to be otherwise
 */
export function useRehearsal(of: () => { job: number; image: number; card: boolean; wish?: Wish }) {
  return useQuery({
    queryKey: computed(() => ['rehearsal', of().job, of().image, of().card, of().wish ?? {}]),
    queryFn: () => {
      const { job, image, card, wish } = of()
      return ask(
        api.GET('/api/jobs/{id}/rehearsal', {
          params: { path: { id: job }, query: { image, card, ...wish } },
        }),
      )
    },
    enabled: computed(() => of().image > 0),
    // While another run is on its way the one before stays in sight.
    placeholderData: keepPreviousData,
  })
}
