import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { api, ask, type Job, type Wish } from '../../api/client'
import { staleJob } from '../../api/live'

/** Starts the long work of a station. */
export function useStart(job: () => Job, what: 'rescue' | 'build', wish?: () => Wish) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () =>
      ask(
        what === 'rescue'
          ? api.POST('/api/jobs/{id}/rescue', {
              params: { path: { id: job().id } },
              body: wish?.(),
            })
          : api.POST('/api/jobs/{id}/build', { params: { path: { id: job().id } } }),
      ),
    onSettled: () => staleJob(queries, job().id),
  })
}
