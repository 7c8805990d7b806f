import { expect, it } from 'vitest'
import { Asked, sentOnce } from './once'

/** Sends through a shed that answers when it is told to, and counts what arrives there. */
function shed() {
  const arrived: string[] = []
  const waiting: ((r: Response) => void)[] = []
  const send = sentOnce((input) => {
    arrived.push((input as Request).url)
    return new Promise((done) => waiting.push(done))
  })
  const ask = (path: string, init: RequestInit) => send(new Asked(`http://shed${path}`, init))
  const answer = () => waiting.splice(0).forEach((done, n) => done(new Response(`answer ${n}`)))
  return { arrived, ask, answer }
}

const text = async (r: Promise<Response>) => (await r).text()

it('sends a change once while it is on its way, and again after its answer', async () => {
  const s = shed()
  const press = () => text(s.ask('/api/jobs', { method: 'POST', body: '{"machine":"PC"}' }))
  const both = Promise.all([press(), press()])
  expect(s.arrived).toHaveLength(1)
  s.answer()
  expect(await both).toEqual(['answer 0', 'answer 0'])
  const later = press()
  expect(s.arrived).toHaveLength(2)
  s.answer()
  expect(await later).toBe('answer 0')
})

it('sends what was changed back and forth, so that the last of it holds', () => {
  const s = shed()
  for (const place of ['1', '2', '1', '1'])
    void s.ask('/api/roms/7/place', { method: 'PUT', body: place })
  expect(s.arrived).toHaveLength(3)
})

it('holds nothing back that asks for something else, reads, or carries a file', () => {
  const s = shed()
  const all: [string, RequestInit][] = [
    ['/api/jobs', { method: 'POST', body: '{"machine":"PC"}' }],
    ['/api/jobs', { method: 'POST', body: '{"machine":"XT"}' }],
    ['/api/jobs/7', { method: 'DELETE' }],
    ['/api/jobs/8', { method: 'DELETE' }],
    ['/api/jobs', { method: 'GET' }],
    ['/api/jobs', { method: 'GET' }],
    ['/api/roms', { method: 'POST', body: new Blob(['a']) }],
    ['/api/roms', { method: 'POST', body: new Blob(['a']) }],
  ]
  for (const [path, init] of all) void s.ask(path, init)
  expect(s.arrived).toHaveLength(all.length)
})

it('tells everybody who asked that there was no answer, and asks anew', async () => {
  const asked: number[] = []
  const send = sentOnce(() => {
    asked.push(1)
    return Promise.reject(new TypeError('away'))
  })
  const ask = () => send(new Asked('http://shed/api/jobs', { method: 'POST', body: '{}' }))
  const both = await Promise.allSettled([ask(), ask()])
  expect(both.map((b) => b.status)).toEqual(['rejected', 'rejected'])
  await expect(ask()).rejects.toThrow('away')
  expect(asked).toHaveLength(2)
})
