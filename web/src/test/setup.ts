// What a page has and a test has not: a base for relative addresses, and an observer of sizes.
const Plain = globalThis.Request

globalThis.Request = class extends Plain {
  constructor(url: string | URL | Request, init?: RequestInit) {
    const relative = typeof url === 'string' && url.startsWith('/')
    super(relative ? `http://localhost${url}` : url, init)
  }
}

globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
}

export type Answerer = (request: Request) => Promise<Response>

const server: { answer: Answerer } = {
  answer: () => Promise.reject(new TypeError('nobody answers')),
}

// The client takes the fetch of the moment it is made, so there is one for all tests.
globalThis.fetch = ((request: Request) => server.answer(request)) as typeof fetch

/** Who answers from now on. */
export function answerWith(answer: Answerer): void {
  server.answer = answer
}
