import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask } from '../api/client'

/** The connectors that cards are made for, by key: those of the cards in the parts drawer. */
export function useCardKinds() {
  const asked = useQuery({
    queryKey: ['drawer', 'cards'],
    queryFn: () => ask(api.GET('/api/drawer/cards')),
  })
  return computed(() => asked.data.value ?? [])
}
