import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, type Schemas } from '../api/client'

export type Rom = Schemas['RomView']

/** An address as people write it, with as many digits as its field has. */
export function hex(n: number, digits = 4): string {
  return n.toString(16).toUpperCase().padStart(digits, '0')
}

/** A file as it is: the server looks what is in it. */
export const asItIs = (file: File) => ({
  headers: { 'Content-Type': 'application/octet-stream' },
  body: file as never,
  bodySerializer: (b: unknown) => b as BodyInit,
})

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
    queries.setQueryData(['rom', view.id], view)
    void queries.invalidateQueries({ queryKey: ['roms'] })
  }
  const place = useMutation({
    scope: { id: 'rom-place' },
    mutationFn: (p: Schemas['PlaceText']) =>
      ask(api.PUT('/api/roms/{id}/place', { ...path.value, body: p })),
    onSuccess: keep,
  })
  const write = useMutation({
    mutationFn: (t: Schemas['RomText']) =>
      ask(api.PUT('/api/roms/{id}', { ...path.value, body: t })),
    onSuccess: keep,
  })
  return { rom, path, keep, place, write, queries, key }
}
