import type { QueryClient } from '@tanstack/vue-query'

/**
 * The answer to a change is what stands now. A question that was under way when the change was made
 * would tell what stood before it, and lay that over the answer: it is dropped.
 */
export function answered<T>(queries: QueryClient, key: readonly unknown[], view: T): void {
  void queries.cancelQueries({ queryKey: key, exact: true })
  queries.setQueryData(key, view)
}
