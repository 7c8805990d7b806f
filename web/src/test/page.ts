import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { mount, type MountingOptions } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import type { Component } from 'vue'
import { routeLocationKey, routerKey } from 'vue-router'
import type { Errand, Job, Schemas, Station, Sum } from '../api/client'
import { answerWith } from './setup'

/** Mounts a component as the application does, with links that lead nowhere. */
export function show(
  component: Component,
  { params = {}, ...options }: MountingOptions<unknown> & { props?: object; params?: object } = {},
) {
  const pinia = createPinia()
  setActivePinia(pinia)
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } })
  return mount(component, {
    attachTo: document.body,
    ...options,
    global: {
      plugins: [pinia, [VueQueryPlugin, { queryClient: queries }]],
      provide: {
        [routeLocationKey as symbol]: { query: {}, params },
        [routerKey as symbol]: { push: () => {}, replace: () => {} },
      },
      stubs: { RouterLink: { props: ['to'], template: '<a :href="String(to)"><slot /></a>' } },
    },
  } as never)
}

/** What the server answers, by "METHOD path"; every request is kept. */
export function answer(answers: Record<string, unknown>) {
  const asked: { what: string; body: unknown }[] = []
  answerWith(async (request) => {
    const url = new URL(request.url, 'http://localhost')
    const what = `${request.method} ${url.pathname}`
    const json = request.headers.get('Content-Type')?.includes('json')
    const text = json ? await request.text() : ''
    asked.push({ what, body: text ? JSON.parse(text) : undefined })
    const known = answers[what]
    const value = typeof known === 'function' ? known(asked.length, url) : known
    const status = value === undefined ? 404 : ((value as { status?: number }).status ?? 200)
    return new Response(JSON.stringify(value ?? { detail: 'There is nothing here.' }), {
      status,
      headers: { 'Content-Type': 'application/json' },
    })
  })
  return asked
}

export const sum: Sum = {
  rule: 'G-2',
  title: 'Plain C/H/S firmware',
  lines: [
    { op: '', label: 'cylinders', value: 1024, text: '1 024' },
    { op: '×', label: 'heads', value: 16, text: '16' },
    { op: '=', label: 'reach', value: 16384, text: '16 384 sectors' },
  ],
  reason: 'The disk call gives 10 bits of cylinder.',
  lifts: ['an option ROM'],
}

/** An errand of the server, running where nothing else is said. */
export function errand(change: Partial<Errand> = {}): Errand {
  return {
    id: 'e1',
    state: 'RUNNING',
    phase: 'reading',
    done: 0,
    total: 4 << 20,
    doneText: '',
    leftText: '',
    sentence: '',
    made: 0,
    ...change,
  }
}

export function step(text: string, change: Partial<Schemas['Step']> = {}): Schemas['Step'] {
  const band = { low: 0, high: 0, unit: '' }
  return { text, look: '', caution: '', reading: '', band, choices: [], gate: false, ...change }
}

const NAMES = 'Intake Fault Rescue Survey Plan Build Write Fit Prove Close'.split(' ')

export function station(number: number, state = 'DARK', sentence = ''): Station {
  return {
    number,
    name: NAMES[number - 1],
    state,
    sentence,
    waitsFor: 'do it',
    record: { notes: '', choice: '', ticks: [], symptoms: [], has: {}, shown: [] },
  }
}

export function job(change: Partial<Job> = {}): Job {
  return {
    id: 7,
    version: 3,
    machine: 'Corvane KD-3 loom controller',
    profile: 'controller-pc',
    profileName: 'Embedded DOS controller',
    fault: 'Clicks.',
    mediumId: 1,
    medium: '120 MB drive',
    cardId: 0,
    card: '',
    rescuedId: 0,
    builtId: 0,
    goldenId: 0,
    startsFrom: 'MEDIUM',
    madeBy: '',
    workId: 0,
    stations: NAMES.map((_, i) => station(i + 1, i === 0 ? 'LIT' : 'DARK')),
    points: [],
    gate: '',
    fitting: { variants: [], chosen: '', rows: [] },
    verdict: {
      kind: '',
      sentence: '',
      evidence: [],
      parts: [],
      remain: [],
      pair: { machine: [], storage: [], named: false },
    },
    where: 'Intake: do it',
    waits: 'in your hands',
    closed: false,
    changed: '2026-11-25T00:00:00Z',
    ...change,
  }
}
