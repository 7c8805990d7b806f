import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { api, ask, type Job } from '../../api/client'

/** Starts the long work of a station. */
export function useStart(job: () => Job, what: 'rescue' | 'build') {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () =>
      ask(api.POST(`/api/jobs/{id}/${what}`, { params: { path: { id: job().id } } })),
    onSettled: () => queries.invalidateQueries(),
  })
}
