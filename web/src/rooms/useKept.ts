import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { useUndo } from '../shed/undo'

/** What is kept in a room has a name that can be put right, and can be taken away with a way back. */
export function useKept<T extends { id: number; name: string }>(
  room: string,
  calls: {
    rename: (id: number, name: string) => Promise<unknown>
    remove: (id: number) => Promise<unknown>
    back: (id: number) => Promise<unknown>
    gone: (kept: T) => string
  },
) {
  const queries = useQueryClient()
  const undo = useUndo()
  const naming = ref(0)
  const name = ref('')
  const again = () => queries.invalidateQueries({ queryKey: [room] })
  const rename = useMutation({
    mutationFn: async (id: number) => {
      if (naming.value !== id || !name.value.trim()) return
      naming.value = 0
      await calls.rename(id, name.value)
    },
    onSettled: again,
  })
  const remove = useMutation({
    mutationFn: (kept: T) => calls.remove(kept.id),
    onSuccess: (_, kept) => undo.offer(calls.gone(kept), () => calls.back(kept.id)),
    onSettled: again,
  })
  return { naming, name, rename, remove }
}
