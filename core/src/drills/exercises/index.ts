/** The exercises that ship. A new one is a file beside this one and a line here. */
import { seeded } from '../../statistics/random.ts'
import { seedNumber } from '../findDrill.ts'
import { type Score, safetyLines } from '../score.ts'
import { keyDownAt, type Play } from '../play.ts'
import { amplifierLoading } from './amplifier.ts'
import { automaticTuner } from './automaticTuner.ts'
import { dummyLoadTime } from './dummyLoad.ts'
import { element } from './element.ts'
import { badJoint } from './badJoint.ts'
import type { Bench, Check, Exercise } from './exercise.ts'
import { handTuner } from './handTuner.ts'
import { substitution } from './substitution.ts'
import { velocityFactorDip } from './velocityFactor.ts'

export const exercises: readonly Exercise[] = [
  handTuner,
  amplifierLoading,
  automaticTuner,
  element,
  substitution,
  velocityFactorDip,
  badJoint,
  dummyLoadTime,
]

/** An exercise with everything that a seed decides. */
export function drawExercise(exercise: Exercise, seed: string): Bench {
  const number = seedNumber(seed)
  return exercise.draw(seeded(number), number)
}

/** Points of an exercise: what was reached, then time and key-down time within the budget, then safety. */
export function scoreExercise(
  { timeS, keyDownS, overS = Infinity }: Pick<Exercise, 'timeS' | 'keyDownS' | 'overS'>,
  checks: readonly Check[],
  play: Play,
  at: number,
): Score {
  const done = checks.filter(({ ok }) => ok).length
  const all = done === checks.length
  const within = (used: number, budget: number, points: number) =>
    all ? Math.max(0, Math.round(points * Math.min(1, 2 - used / Math.max(1, budget)))) : 0
  const keyed = keyDownAt(play, at)
  const longest = Math.max(play.longestS, play.keyedAt === null ? 0 : at - play.keyedAt)
  const lines = [
    {
      what: `${done} of ${checks.length} reached`,
      points: Math.round((70 * done) / checks.length),
    },
    { what: `${Math.round(at)} s of ${timeS} s`, points: within(at, timeS, 15) },
    {
      what: `key down ${Math.round(keyed)} s of ${keyDownS} s`,
      points: within(keyed, keyDownS, 15),
    },
    ...(longest > overS
      ? [{ what: `an over of ${Math.round(longest)} s, longer than ${overS} s`, points: -10 }]
      : []),
    ...safetyLines(play.troubles.map(({ kind }) => kind)),
  ]
  const total = lines.reduce((sum, { points }) => sum + points, 0)
  return { total: Math.max(0, Math.min(100, total)), lines }
}
