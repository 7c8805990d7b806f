import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import LayoutLine from './LayoutLine.vue'
import { answer, show } from '../test/page'

const A = 'cpm:offset=0,block=2048,entries=64'
const B = 'cpm:offset=0,block=1024,entries=128'

describe('how a disk lies that does not say so', () => {
  it('is chosen of what fits, or said in figures, and the others stay to choose from', async () => {
    const asked = answer({ 'PUT /api/images/4/layout': {} })
    const w = show(LayoutLine, { props: { image: 4, guesses: [A, B], said: '' } })
    expect(w.text()).toContain('▲ How its files lie is a guess: 2 ways fit')
    await w.get('select').setValue(B)
    await flushPromises()
    expect(asked.find((a) => a.what === 'PUT /api/images/4/layout')?.body).toEqual({ layout: B })
    await w.setProps({ guesses: [], said: B })
    expect(w.text()).toContain('● Read as you said')
    expect(w.findAll('option').map((o) => o.attributes('value'))).toEqual(['', A, B])
    expect((w.get('input').element as HTMLInputElement).value).toBe(B)
    expect(w.get('button').attributes('disabled')).toBeDefined()
  })
})
