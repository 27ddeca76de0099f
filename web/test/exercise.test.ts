import { begin, type Control, drawExercise, exercises, playThrough } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { attemptOf, byPlace, checkLines, troubleNow } from '../src/model/exercise.ts'

const named = (id: string) => exercises.find((one) => one.id === id)!

describe('an exercise on its page', () => {
  test('what has no unit is a dial, all else stands beside, and nothing is lost', () => {
    for (const exercise of exercises) {
      const { simulation } = drawExercise(exercise, 'a')
      const controls = simulation.controls(simulation.start)
      const { dials, others } = byPlace(controls)
      expect([...dials, ...others].map(({ id }) => id).sort()).toEqual(
        controls.map(({ id }) => id).sort(),
      )
      expect(dials.every((each) => each.kind === 'knob' && each.unit === undefined)).toBe(true)
      const isDial = (each: Control) => each.kind === 'knob' && each.unit === undefined
      expect(others.some(isDial)).toBe(false)
    }
    // The velocity factor is a figure, not a dial without a scale.
    const { simulation } = drawExercise(named('bad-joint'), 'a')
    expect(byPlace(simulation.controls(simulation.start)).dials).toEqual([])
  })

  test('a trouble that is over is said for four seconds, one that lasts as long as it lasts', () => {
    const over = { lasting: [], troubles: [{ kind: 'arc' as const, at: 10 }] }
    expect(troubleNow(over, 13.9)).toBe('arc')
    expect(troubleNow(over, 14)).toBeNull()
    expect(troubleNow({ ...over, lasting: ['off scale'] }, 99)).toBe('off scale')
    expect(troubleNow({ lasting: [], troubles: [] }, 0)).toBeNull()
  })

  test('an answer is not given away before the end; what is of the bench is shown', () => {
    const asking = { asks: [{ id: 'x', label: 'X', unit: '' }] }
    const checks = [
      { what: 'loss within 0.2 dB', ok: true },
      { what: 'both read on a scale that fits', ok: true },
      { what: 'keyed for less than 10 s', ok: false },
    ]
    const states = (of: Parameters<typeof checkLines>[0]) =>
      checkLines(of, checks).map(({ state }) => state)
    expect(states(asking)).toEqual(['told at the end', 'reached', 'open'])
    expect(states({ asks: [] })).toEqual(['reached', 'reached', 'open'])
  })

  test('what is kept says what it was, whether it was right, and at the most a day of key-down', () => {
    const exercise = named('t-network')
    const { simulation, judge } = drawExercise(exercise, 'gull-1')
    const play = playThrough(simulation, [{ at: 0, do: 'key', down: true }])
    const checks = judge(play, {}, 5)
    const kept = attemptOf(exercise, 'gull-1', checks, play, 90_000)
    expect(kept).toMatchObject({
      ...{ family: 'hands-on', drill: 't-network', seed: 'gull-1', level: 0, readings: 0 },
      ...{ right: false, keyDownS: 86_400 },
    })
    const fresh = attemptOf(exercise, 'gull-1', [{ what: 'x', ok: true }], begin(simulation), 0)
    expect(fresh).toMatchObject({ right: true, keyDownS: 0, points: 100 })
  })
})
