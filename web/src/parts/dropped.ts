/** A file with the path under which it was dropped, and its local time of change. */
export interface FromDesktop {
  path: string
  time: string
  file: File
}

/** Folders are walked to this depth; what lies deeper is no folder a volume would hold. */
const DEEPEST = 32

/** "2024-05-06T07:08:10": the time as a clock on the wall showed it. */
export function localTime(ms: number): string {
  const t = new Date(ms)
  const two = (n: number) => String(n).padStart(2, '0')
  return (
    `${t.getFullYear()}-${two(t.getMonth() + 1)}-${two(t.getDate())}` +
    `T${two(t.getHours())}:${two(t.getMinutes())}:${two(t.getSeconds())}`
  )
}

function from(path: string, file: File): FromDesktop {
  return { path, file, time: localTime(file.lastModified) }
}

/** Files of a chooser; of a folder they carry their paths. */
export function picked(files: Iterable<File>): FromDesktop[] {
  return [...files].map((f) => from(f.webkitRelativePath || f.name, f))
}

/** Everything that was dropped, folders walked to their end. */
export async function dropped(data: DataTransfer): Promise<FromDesktop[]> {
  // The list is empty as soon as the event is over: entries are taken before anything is awaited.
  const entries = [...data.items].flatMap((i) => i.webkitGetAsEntry() ?? [])
  const out: FromDesktop[] = []
  for (const e of entries) await walk(e, '', out, 0)
  return out
}

async function walk(
  entry: FileSystemEntry,
  parent: string,
  out: FromDesktop[],
  depth: number,
): Promise<void> {
  const path = parent ? `${parent}/${entry.name}` : entry.name
  if (entry.isFile) {
    const file = await new Promise<File>((done, fail) =>
      (entry as FileSystemFileEntry).file(done, fail),
    )
    out.push(from(path, file))
    return
  }
  if (depth >= DEEPEST) return
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  for (;;) {
    // A reader gives a hundred at a time, and an empty list at its end.
    const some = await new Promise<FileSystemEntry[]>((done, fail) =>
      reader.readEntries(done, fail),
    )
    if (!some.length) return
    for (const e of some) await walk(e, path, out, depth + 1)
  }
}
