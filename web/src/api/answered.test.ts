import { QueryClient } from '@tanstack/vue-query'
import { expect, it } from 'vitest'
import { answered } from './answered'

it('is not overwritten by what was asked before the change', async () => {
  const queries = new QueryClient()
  let tell: (view: string) => void = () => {}
  const asked = queries.fetchQuery({
    queryKey: ['rom', 1],
    queryFn: () => new Promise<string>((done) => (tell = done)),
  })
  asked.catch(() => {})
  answered(queries, ['rom', 1], 'after')
  tell('before')
  await asked.catch(() => {})
  await new Promise((done) => setTimeout(done))
  expect(queries.getQueryData(['rom', 1])).toBe('after')
})
