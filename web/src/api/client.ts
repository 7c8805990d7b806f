import createClient from 'openapi-fetch'
import { Asked, sentOnce } from './once'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Job = Schemas['JobView']
export type JobRow = Schemas['JobRow']
export type Light = Schemas['LampView']
export type Station = Schemas['StationView']
export type StationRecord = Schemas['StationRecord']
export type Work = Schemas['WorkView']
export type Plan = Schemas['Plan']
export type PlanChoice = Schemas['PlanChoice']
export type Sum = Schemas['Sum']
export type Peg = Schemas['Peg']
export type Medium = Schemas['MediumView']
export type Image = Schemas['ImageView']
export type Errand = Schemas['ErrandView']
export type Finding = Schemas['Finding']
export type Link = Schemas['Link']
export type Range = Schemas['RangeView']
export type Wish = Schemas['RescueWish']
export type Machine = Schemas['Profile']

export type Board = Schemas['Board']
export type BoardPart = Schemas['PartView']
export type BoardTest = Schemas['TrialView']
export type Advice = Schemas['Advice']
export type Picture = Schemas['PictureView']

export const api = createClient<paths>({
  baseUrl: '',
  Request: Asked,
  fetch: sentOnce((...what) => globalThis.fetch(...what)),
})

/** The sentence of a problem, or one of our own where there was no answer at all. */
export class Problem extends Error {
  /** What the shed answered, 409 where somebody was faster; 0 where it was not asked. */
  constructor(
    sentence: string,
    readonly status = 0,
  ) {
    super(sentence)
  }
}

/** There was no answer at all: whether what was asked was done nobody knows. */
export class Away extends Problem {}

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** Waits for an answer and gives its data, or throws its sentence. */
export async function ask<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await call
  } catch {
    throw new Away('The shed does not answer. Look whether it still runs, then try again.')
  }
  if (answer.response.ok) return answer.data as T
  const detail = (answer.error as { detail?: string } | undefined)?.detail
  throw new Problem(
    detail ?? `The shed answered ${answer.response.status}.`,
    answer.response.status,
  )
}

/** What a person is told of anything that was thrown. */
export function sentence(e: unknown): string {
  return e instanceof Error ? e.message : String(e)
}

/** A file as it is: the server looks what is in it. */
export const asItIs = (file: File) => ({
  headers: { 'Content-Type': 'application/octet-stream' },
  body: file as never,
  bodySerializer: (b: unknown) => b as BodyInit,
})
