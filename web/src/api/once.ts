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

/** A request that knows what it asks for; '' where the same may well be asked twice at once. */
export class Asked extends Request {
  readonly what: string
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(input, init)
    const { body } = init ?? {}
    const changes = this.method !== 'GET' && this.method !== 'HEAD'
    const isText = body === undefined || body === null || typeof body === 'string'
    this.what = changes && isText ? `${this.method} ${this.url} ${body ?? ''}` : ''
  }
}

/**
 * Sends each change once: a double click or a key held down asks for the very same again before the
 * first is answered, gets the answer of the first, and makes no second job, card or line.
 */
export function sentOnce(send: typeof fetch): typeof fetch {
  const underway = new Map<string, Promise<Response>>()
  return async (input, init) => {
    const what = input instanceof Asked ? input.what : ''
    if (what === '') return send(input, init)
    let answer = underway.get(what)
    if (!answer) {
      answer = send(input, init).finally(() => underway.delete(what))
      underway.set(what, answer)
    }
    // Whoever asked reads an answer of their own.
    return (await answer).clone()
  }
}
