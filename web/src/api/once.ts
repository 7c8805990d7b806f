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

/** A request that knows which change it asks for; '' for a file, undefined where it only reads. */
export class Asked extends Request {
  readonly what: string | undefined
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(input, init)
    const { body } = init ?? {}
    if (this.method === 'GET' || this.method === 'HEAD') return
    const isText = body === undefined || body === null || typeof body === 'string'
    this.what = isText ? `${this.method} ${this.url} ${body ?? ''}` : ''
  }
}

/**
 * Sends each change once: a double click or a key held down asks for the very same again before the
 * first is answered, gets the answer of the first, and makes no second job, card or line. Only the
 * change before counts: on, off and on again are three, and the last of them holds.
 */
export function sentOnce(send: typeof fetch): typeof fetch {
  let before: { what: string; answer: Promise<Response> } | undefined
  return async (input, init) => {
    const { what } = input instanceof Asked ? input : { what: undefined }
    if (what === undefined) return send(input, init)
    if (what === '' || what !== before?.what) {
      const now = { what, answer: send(input, init) }
      before = now
      const answered = () => {
        if (before === now) before = undefined
      }
      now.answer.then(answered, answered)
    }
    // Whoever asked reads an answer of their own.
    return (await before!.answer).clone()
  }
}
