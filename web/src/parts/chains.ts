import type { Schemas } from '../api/client'

/** Mark and tone of what a chain says. */
export const TOLD: Record<Schemas['Told']['verdict'], { mark: string; tone: string }> = {
  FITS: { mark: '✓', tone: 'text-moss' },
  CARE: { mark: '▲', tone: 'text-lamp' },
  SET: { mark: '◆', tone: 'text-plum font-bold' },
  BOUND: { mark: '▼', tone: 'text-ink font-bold' },
}
