/** Processors by their published numbers. */
export const LEVELS = {
  I8086: '8086',
  I80186: '80186',
  I80286: '80286',
  I80386: '80386',
  I80486: '80486',
  I80586: '80586',
} as const

/** Whether a class of processors came after another. */
export function isLater(level: keyof typeof LEVELS, than: keyof typeof LEVELS): boolean {
  const all = Object.keys(LEVELS)
  return all.indexOf(level) > all.indexOf(than)
}
