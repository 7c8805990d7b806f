import { afterEach, describe, expect, it } from 'vitest'
import { defineComponent, h } from 'vue'
import { show, sum } from '../test/page'
import BecauseDrawer from './BecauseDrawer.vue'
import Why from './Why.vue'

const Page = defineComponent({
  render: () => h('div', [h('main', [h(Why, { sum, text: '504.0 MiB' })]), h(BecauseDrawer)]),
})

afterEach(() => (document.body.innerHTML = ''))

const key = (k: string) => window.dispatchEvent(new KeyboardEvent('keydown', { key: k }))

describe('because', () => {
  it('opens the sum of a figure line by line, with its rule, reason and what lifts it', async () => {
    const w = show(Page)
    expect(w.find('aside').exists()).toBe(false)
    await w.find('[data-why]').trigger('click')
    const drawer = w.find('aside')
    expect(drawer.text()).toContain('rule G-2')
    expect(drawer.findAll('dl > div').map((d) => d.text().replace(/\s+/g, ' '))).toEqual([
      'cylinders1 024',
      '×heads16',
      '=reach16 384 sectors',
    ])
    expect(drawer.text()).toContain('10 bits of cylinder')
    expect(drawer.text()).toContain('What would lift it')
    expect(drawer.text()).toContain('an option ROM')
  })

  it('opens with Y for the figure in focus, closes with Escape and gives the focus back', async () => {
    const w = show(Page)
    key('y')
    await w.vm.$nextTick()
    await w.vm.$nextTick()
    expect(w.find('aside').exists()).toBe(true)
    expect(document.activeElement?.getAttribute('aria-label')).toBe('Close')
    key('Escape')
    await w.vm.$nextTick()
    expect(w.find('aside').exists()).toBe(false)
    expect(document.activeElement?.hasAttribute('data-why')).toBe(true)
  })

  it('says to a screen reader what the button is for', () => {
    const w = show(Page)
    expect(w.find('[data-why]').attributes('aria-label')).toBe('504.0 MiB: because')
  })
})
