import type { Random } from '../../statistics/random.ts'
import type { Control, Play, Simulation } from '../play.ts'

/** One thing that has to be so. */
export interface Check {
  what: string
  ok: boolean
}

/** An exercise drawn from a seed. */
export interface Bench {
  simulation: Simulation
  /** What is given: name and figure. */
  facts: readonly (readonly [name: string, figure: string])[]
  /** What is reached so far. */
  judge: (play: Play, answers: Readonly<Record<string, number>>, at: number) => readonly Check[]
  /** What was hidden: name and figure. */
  truth: (play: Play) => readonly (readonly [name: string, figure: string])[]
}

/** A task with a goal, done by hand on a simulated bench. */
export interface Exercise {
  id: string
  title: string
  goal: string
  caution: string
  /** What to remember, in three sentences. */
  lesson: string
  /** Time for all of it, and key-down time, s; the longest single over where that counts. */
  timeS: number
  keyDownS: number
  overS?: number
  /** Figures that are asked for. */
  asks: readonly { id: string; label: string; unit: string; choices?: readonly string[] }[]
  /** Run sheet and term that belong to it. */
  sheet: string | null
  term: string
  draw: (random: Random, seed: number) => Bench
}

/** A number evenly between two ends. */
export const between = (random: Random, low: number, high: number): number =>
  low + (high - low) * random()

/** Settings of a switch, with their unit. */
export const choices = (values: readonly number[], unit: string) =>
  values.map((value) => ({ value, label: `${value} ${unit}` }))

/** A knob from 0 to 100 without a scale of its own, as on the front of a box. */
export const dial = (id: string, label: string): Control => ({
  id,
  label,
  kind: 'knob',
  least: 0,
  most: 100,
  step: 0.5,
})
