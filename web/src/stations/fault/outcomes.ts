import type { Schemas } from '../../api/client'

export type Outcome = Schemas['TrialText']['outcome']

/** Mark, word and tone of each outcome, so that colour never says it alone. */
export const OUTCOMES: Record<Outcome, { mark: string; word: string; tone: string }> = {
  WORKS: { mark: '✓', word: 'works', tone: 'text-moss' },
  FAILS: { mark: '✕', word: 'fails', tone: 'text-brick' },
  SOMETIMES: { mark: '≈', word: 'now and then', tone: 'text-brick' },
  PARTLY: { mark: '◐', word: 'partly', tone: 'text-brick' },
  SLOW: { mark: '◔', word: 'slowly', tone: 'text-brick' },
  NOTED: { mark: '·', word: 'noted', tone: 'text-slate' },
  CHANGED: { mark: '⚒', word: 'done to it', tone: 'text-river' },
}

/** How it went, in words: "3 of 6". */
export function outcomeWord(t: Schemas['TrialText']): string {
  return t.outcome === 'SOMETIMES' ? `works ${t.worked} of ${t.of}` : OUTCOMES[t.outcome].word
}
