import type { Schemas } from '../../api/client'

/** Mark and tone of the one answer to "does it start?"; the sentence comes from the core. */
export const START: Record<Schemas['Start']['kind'], { mark: string; tone: string }> = {
  NOT_MEANT: { mark: '–', tone: 'text-slate' },
  MEANT: { mark: '○', tone: 'text-slate' },
  STANDS: { mark: '○', tone: 'text-ink font-bold' },
  DOUBT: { mark: '▲', tone: 'text-lamp font-bold' },
  BREAKS: { mark: '✕', tone: 'text-brick font-bold' },
}
