import type { Ref } from 'vue'

/** A press that makes something new: a second one while the first is on its way is none. */
export function once<A>(change: {
  isPending: Ref<boolean>
  mutate: (what: A) => void
}): (what: A) => void {
  return (what) => {
    if (!change.isPending.value) change.mutate(what)
  }
}
