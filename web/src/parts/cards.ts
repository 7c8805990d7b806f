import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, ask, type Medium, type Schemas } from '../api/client'

/** The connectors that cards are made for, by key: those of the cards in the parts drawer. */
export function useCardKinds() {
  const asked = useQuery({
    queryKey: ['drawer', 'cards'],
    queryFn: () => ask(api.GET('/api/drawer/cards')),
  })
  return computed(() => asked.data.value ?? [])
}

/** A card that may be chosen, with its line of the register; none where it is not there yet. */
export interface CardChoice extends Medium {
  row?: Schemas['RegisterRow']
}

/** What a card holds by its last read-back, and of which machine; '' where nothing is known. */
export function holds(card: CardChoice): string {
  const { row } = card
  if (!row?.image) return ''
  const said = !row.machine || row.imageName.startsWith(row.machine)
  return `“${row.imageName}”${said ? '' : ` of ${row.machine}`}`
}

/** The same where it was not this job that put it there: writing takes it from somebody. */
export function othersOn(card: CardChoice, job: number): string {
  return card.row?.job === job ? '' : holds(card)
}

/** Cards as they are offered: what is plugged in means to be used, and what holds nothing is free. */
export function useCards() {
  const media = useQuery({ queryKey: ['media'], queryFn: () => ask(api.GET('/api/media')) })
  const register = useQuery({
    queryKey: ['register'],
    queryFn: () => ask(api.GET('/api/register')),
  })
  const cards = computed(() => {
    // Both or nothing: an order that changes under somebody's hand is worse than a moment's wait.
    if (register.isPending.value) return []
    const rows = new Map(register.data.value?.map((r) => [r.card, r]))
    return (media.data.value ?? [])
      .filter((m) => m.card)
      .map((m): CardChoice => ({ ...m, row: rows.get(m.id) }))
      .sort(
        (a, b) => Number(!!b.node) - Number(!!a.node) || Number(!!holds(a)) - Number(!!holds(b)),
      )
  })
  return { cards, none: computed(() => media.data.value?.some((m) => m.card) === false) }
}
