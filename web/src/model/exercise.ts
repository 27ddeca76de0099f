/** An exercise as its page shows it: what is set where, what is reached, what is kept of it. */
import type { AttemptBody } from '@saltline/contract'
import {
  type Check,
  type Control,
  type Exercise,
  keyDownAt,
  type Play,
  scoreExercise,
  type TroubleKind,
} from '@saltline/core'

/** Controls without a unit are dials, and lie under the instruments; the others are beside them. */
export function byPlace(controls: readonly Control[]): { dials: Control[]; others: Control[] } {
  const isDial = (control: Control) => control.kind === 'knob' && control.unit === undefined
  return { dials: controls.filter(isDial), others: controls.filter((each) => !isDial(each)) }
}

/** So long a trouble that is over is still said, s. */
const SAID_S = 4

/** What goes wrong at this moment, or has just gone wrong. */
export function troubleNow(
  { lasting, troubles }: Pick<Play, 'lasting' | 'troubles'>,
  at: number,
): TroubleKind | null {
  const last = troubles.at(-1)
  return lasting[0] ?? (last && at - last.at < SAID_S ? last.kind : null)
}

type CheckState = 'reached' | 'open' | 'told at the end'
export const CHECK_MARKS: Readonly<Record<CheckState, string>> = {
  reached: '✓',
  open: '○',
  'told at the end': '·',
}

/** What has to be so: whether an answer is right is told at the end. */
export const checkLines = (
  { asks }: Pick<Exercise, 'asks'>,
  checks: readonly Check[],
): { what: string; state: CheckState }[] =>
  checks.map(({ what, ok }) => ({
    what,
    state: asks.length > 0 && !ofBench(what) ? 'told at the end' : ok ? 'reached' : 'open',
  }))

/** Checks that are of the bench, not of an answer. */
const ofBench = (what: string): boolean => /read on a scale|keyed/.test(what)

const MOST_KEPT_S = 86_400

/** What is kept of an exercise that was finished. */
export const attemptOf = (
  exercise: Exercise,
  seed: string,
  checks: readonly Check[],
  play: Play,
  at: number,
): Omit<AttemptBody, 'by'> => ({
  family: 'hands-on',
  drill: exercise.id,
  level: 0,
  seed,
  points: scoreExercise(exercise, checks, play, at).total,
  right: checks.every(({ ok }) => ok),
  readings: 0,
  keyDownS: Math.min(MOST_KEPT_S, keyDownAt(play, at)),
})
