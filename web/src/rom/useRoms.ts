import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { answered } from '../api/answered'
import { api, ask, type Schemas } from '../api/client'

export type Rom = Schemas['RomView']

/** What becomes of a place, from what it is when it is changed. */
export type PlaceChange = (now: Rom['place']) => Partial<Rom['place']>

/** An address as people write it, with as many digits as its field has. */
export function hex(n: number, digits = 4): string {
  return n.toString(16).toUpperCase().padStart(digits, '0')
}

/** One image of the bench, and what can be done with it; each answer is the image as it is then. */
export function useRom(id: () => number) {
  const queries = useQueryClient()
  const key = computed(() => ['rom', id()])
  const path = computed(() => ({ params: { path: { id: id() } } }))
  const rom = useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET('/api/roms/{id}', path.value)),
  })
  function keep(view: Rom): void {
    answered(queries, ['rom', view.id], view)
    void queries.invalidateQueries({ queryKey: ['roms'] })
  }
  // One change after the other, each on what the one before left: a quick hand is not somebody else.
  const scope = { id: 'rom' }
  const latest = () => queries.getQueryData<Rom>(key.value)!
  const again = () => queries.invalidateQueries({ queryKey: key.value })
  const place = useMutation({
    scope,
    mutationFn: (change: PlaceChange) => {
      const { version, place: p } = latest()
      const body = { version, ...p, ...change(p) }
      return ask(api.PUT('/api/roms/{id}/place', { ...path.value, body }))
    },
    onSuccess: keep,
    onError: again,
  })
  const write = useMutation({
    scope,
    mutationFn: (change: { note?: string; drives?: number }) => {
      const { version, name, note, drives } = latest()
      const body = { version, name, note, drives, ...change }
      return ask(api.PUT('/api/roms/{id}', { ...path.value, body }))
    },
    onSuccess: keep,
    onError: again,
  })
  const forJob = useMutation({
    scope,
    mutationFn: (job: number) =>
      ask(
        api.PUT('/api/roms/{id}/job', { ...path.value, body: { version: latest().version, job } }),
      ),
    onSuccess: keep,
    onError: again,
  })
  return { rom, path, forJob, keep, place, write, queries, key }
}
