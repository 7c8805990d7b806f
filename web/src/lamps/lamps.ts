/** The word and the mark of each state, so that colour never says it alone. */
export const LAMPS: Record<string, { word: string; tone: string }> = {
  DARK: { word: 'not yet', tone: 'text-slate' },
  LIT: { word: 'in hand', tone: 'text-lamp' },
  MOSS: { word: 'proved', tone: 'text-moss' },
  BRICK: { word: 'stopped', tone: 'text-brick' },
  DASH: { word: 'not needed here', tone: 'text-slate' },
}

/** The words that a lamp says when it is pointed at. */
export function lampTitle(station: {
  name: string
  state: string
  sentence: string
  waitsFor: string
}) {
  const word = LAMPS[station.state].word
  const more =
    station.sentence || (station.state === 'LIT' ? `waits for you to ${station.waitsFor}` : '')
  return `${station.name}: ${word}${more ? '. ' + more : ''}`
}
