import type { Schemas } from '../api/client'

type Ending = Schemas['Rehearsal']['ending']
const ENTERS = { mark: '✓', tone: 'text-moss', head: 'Its loader is entered', short: 'enters it' }
const OPEN = {
  mark: '▲',
  tone: 'text-lamp',
  head: 'Followed so far, not further',
  short: 'not decided',
}
const FAILS = {
  mark: '✕',
  tone: 'text-brick',
  head: 'Its loader is not entered',
  short: 'does not',
}

/** What was seen when its code was run: a start, a failure, or neither as far as it is followed. */
export function ended(ending: Ending): typeof ENTERS {
  if (ending === 'ENTERED') return ENTERS
  return ending === 'NOT_FOLLOWED' ? OPEN : FAILS
}

/** Whether it was seen to start nothing. */
export const fails = (ending: Ending) => ended(ending) === FAILS
