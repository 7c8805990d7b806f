import type { StationRecord } from '../../api/client'

/** Compared by what is in it: in whichever order its lists and fields came. */
export function same(a: StationRecord, b: StationRecord): boolean {
  return text(byKey(a)) === text(byKey(b))
}

/**
 * What two hands wrote from one base, each point and field by itself: what only one of them changed
 * is as that one left it, where both did, mine is the later. Notes of both stand one below the other.
 */
export function merge(
  base: StationRecord,
  mine: StationRecord,
  theirs: StationRecord,
): StationRecord {
  const [b, m, t] = [base, mine, theirs].map(byKey)
  const out = both(b, m, t) as ReturnType<typeof byKey>
  const twice = m.notes !== b.notes && t.notes !== b.notes && !m.notes.includes(t.notes)
  return {
    notes: twice ? `${t.notes}\n${m.notes}` : out.notes,
    choice: out.choice,
    ticks: Object.values(out.ticks),
    symptoms: Object.keys(out.symptoms),
    has: out.has,
    shown: Object.values(out.shown),
  }
}

type Plain = string | number | boolean | null | undefined | { [key: string]: Plain }

/** Lists by what each entry is of, so that an entry is compared with its own. */
function byKey(r: StationRecord) {
  return {
    notes: r.notes,
    choice: r.choice,
    // A point that nobody touched is as good as none.
    ticks: Object.fromEntries(
      r.ticks.filter((t) => t.done || t.reading || t.choice).map((t) => [t.index, { ...t }]),
    ),
    symptoms: Object.fromEntries(r.symptoms.map((s) => [s, true])),
    has: { ...r.has },
    shown: Object.fromEntries(
      r.shown.filter((s) => s.text || s.unseen || s.explained).map((s) => [s.key, { ...s }]),
    ),
  }
}

function both(base: Plain, mine: Plain, theirs: Plain): Plain {
  if (text(mine) === text(base)) return theirs
  if (text(theirs) === text(base)) return mine
  if (!isRecord(mine) || !isRecord(theirs)) return mine
  const from = isRecord(base) ? base : {}
  const keys = new Set([...Object.keys(theirs), ...Object.keys(mine)])
  const merged = [...keys].map((k) => [k, both(from[k], mine[k], theirs[k])] as const)
  return Object.fromEntries(merged.filter(([, v]) => v !== undefined))
}

function isRecord(p: Plain): p is { [key: string]: Plain } {
  return typeof p === 'object' && p !== null
}

/** With its fields in one order; what nobody wrote is as good as nothing. */
function text(p: Plain): string {
  if (p === '' || p === false || p === undefined) return ''
  if (!isRecord(p)) return JSON.stringify(p)
  const keys = Object.keys(p).sort()
  return `{${keys.map((k) => `${JSON.stringify(k)}:${text(p[k])}`).join()}}`
}
