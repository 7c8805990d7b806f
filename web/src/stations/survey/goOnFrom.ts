import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { api, ask } from '../../api/client'
import { staleJob } from '../../api/live'

/** From now on the job's survey, plan and build are of another image: a mended copy, one with a table. */
export function useGoOnFrom(job: () => { id: number; version: number }) {
  const queries = useQueryClient()
  const goOn = useMutation({
    mutationFn: (imageId: number) =>
      ask(
        api.PUT('/api/jobs/{id}/source', {
          params: { path: { id: job().id } },
          body: { version: job().version, imageId },
        }),
      ),
    onSettled: () => staleJob(queries, job().id),
  })
  return { goOn }
}
