import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { answered } from '../api/answered'
import { api, asItIs, ask, type Schemas } from '../api/client'
import { useErrand } from '../parts/useErrand'
import { useSending } from '../parts/useSending'
import type { FromDesktop } from '../parts/dropped'

export type Crossing = Schemas['CrossingView']
export type Row = Schemas['CrossingRow']
export type Choices = Crossing['choices']
export type There = Schemas['ThereRow']
export type TextChange = Schemas['TextChange']
export type ThereChange = Schemas['ThereChange']

/** How each state of a file is marked and said. */
export const STATES = {
  OVER: { mark: '✓', tone: 'text-moss', says: 'goes over' },
  LOOK: { mark: '▲', tone: 'text-lamp', says: 'goes over, changed' },
  STAYS: { mark: '✕', tone: 'text-brick', says: 'stays' },
  LEFT: { mark: '○', tone: 'text-slate', says: 'left out' },
} as const

/** One crossing: what comes, what is chosen, and how it is carried. */
export function useCrossing(id: () => number) {
  const queries = useQueryClient()
  const key = computed(() => ['crossing', id()])
  const path = computed(() => ({ params: { path: { id: id() } } }))
  const crossing = useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET('/api/crossings/{id}', path.value)),
  })
  const again = () => queries.invalidateQueries({ queryKey: key.value })

  // One choice after the other, each on what the one before left.
  const choose = useMutation({
    scope: { id: 'crossing' },
    mutationFn: (change: (now: Choices) => Partial<Choices> & { disk?: string }) => {
      const now = queries.getQueryData<Crossing>(key.value)!
      const { disk = now.disk, ...chosen } = change(now.choices)
      const body = { disk, version: now.version, choices: { ...now.choices, ...chosen } }
      return ask(api.PUT('/api/crossings/{id}', { ...path.value, body }))
    },
    onSuccess: (view) => answered(queries, key.value, view),
    onError: again,
  })

  const sending = useSending((f) =>
    ask(
      api.PUT('/api/crossings/{id}/files', {
        params: { path: { id: id() }, query: { path: f.path, time: f.time } },
        ...asItIs(f.file),
      }),
    ),
  )
  const bring = useMutation({
    mutationFn: async (files: FromDesktop[] | Promise<FromDesktop[]>) => sending.send(await files),
    onSettled: again,
  })
  const fetching = useErrand()
  const fetch = useMutation({
    mutationFn: (from: Schemas['FromImage']) =>
      fetching.run(ask(api.POST('/api/crossings/{id}/from-image', { ...path.value, body: from }))),
    onSettled: again,
  })
  const carrying = useErrand()
  const carry = useMutation({
    mutationFn: () =>
      carrying.run(
        ask(
          api.POST('/api/crossings/{id}/carry', {
            params: {
              path: { id: id() },
              query: { seal: queries.getQueryData<Crossing>(key.value)!.laid.seal },
            },
          }),
        ),
      ),
    onSettled: () => {
      void queries.invalidateQueries({ queryKey: ['images'] })
      void queries.invalidateQueries({ queryKey: ['crossings'] })
      return again()
    },
  })
  return { crossing, choose, sending, bring, fetching, fetch, carrying, carry }
}
