/** What a step becomes in the record of its run, and what is in its way. */
import type { RunStepDocument } from '@saltline/contract'
import type { ExpectedStep } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { entryOfStep, readOf, stopOf, whyNotDone } from '../src/model/stepEntry.ts'

const read = { id: 'r', kind: 'read', title: 'Read' } as RunStepDocument
const check = { id: 'c', kind: 'check', title: 'Look' } as RunStepDocument
const tune = { id: 't', kind: 'read', title: 'Tune', dials: 'tuner' } as RunStepDocument
const nothing = { forwardW: null, reflectedW: null, swr: null, dials: [] }
const typed = { ...nothing, forwardW: 25, reflectedW: 0.4 }
const expected = { watts: 24, wattsRange: { low: 22, high: 27 }, swr: 1.3 } as ExpectedStep
const plain = { typed, expected: null, seconds: 0, dialCount: 3, stop: null }

describe('an entry', () => {
  test('of a reading: what was typed, beside what was expected', () => {
    expect(entryOfStep(read, { ...plain, expected })).toEqual({
      outcome: 'done',
      forwardW: 25,
      reflectedW: 0.4,
      expectedW: 24,
      lowW: 22,
      highW: 27,
      expectedSwr: 1.3,
    })
    expect(readOf({ ...nothing, swr: 1.5 })).toEqual({ swr: 1.5 })
  })

  test('of a step that is not read: no figures, whatever was typed', () => {
    expect(entryOfStep(check, plain)).toEqual({ outcome: 'done' })
  })

  test('how long the key was down, to a tenth; a rest is no key', () => {
    expect(entryOfStep(check, { ...plain, seconds: 4.26 }).keyedS).toBe(4.3)
    expect(entryOfStep({ ...check, rest: true }, { ...plain, seconds: 4 }).keyedS).toBeUndefined()
  })

  test('dials keep their places; none at all is no entry of them', () => {
    const dials = ['', ' 4½ ']
    expect(entryOfStep(tune, { ...plain, typed: { ...typed, dials } }).dials).toEqual([
      '',
      '4½',
      '',
    ])
    expect(entryOfStep(tune, { ...plain, typed: { ...typed, dials: ['', ''] } }).dials).toBe(
      undefined,
    )
    expect(entryOfStep(read, { ...plain, typed: { ...typed, dials } }).dials).toBeUndefined()
  })

  test('a stop with its reason, as long as a record takes', () => {
    const stop = stopOf('swr', 'x'.repeat(400), true)
    expect(stop.why).toHaveLength(300)
    expect(entryOfStep(read, { ...plain, stop }).stop).toEqual(stop)
  })
})

describe('what is in the way of a step', () => {
  const free = { typed, hasChannel: true, stopped: false, wentOn: false, despite: false }
  const well = { against: [], stopped: false }

  test('nothing, where it is read and all is well', () => {
    expect(whyNotDone(read, free)).toBeNull()
    expect(whyNotDone(read, { ...free, known: well })).toBeNull()
    expect(whyNotDone(check, { ...free, typed: nothing, hasChannel: false })).toBeNull()
  })

  test('a channel that is gone, for what is read or tuned on it', () => {
    expect(whyNotDone(read, { ...free, hasChannel: false })).toMatch(/no longer in the chain/)
    const dialled = { ...check, dials: 'tuner' } as RunStepDocument
    expect(whyNotDone(dialled, { ...free, hasChannel: false })).toMatch(/no longer in the chain/)
  })

  test('a meter that was not read; an SWR alone is a reading, reflected power alone is none', () => {
    expect(whyNotDone(read, { ...free, typed: nothing })).toMatch(/Enter what the meter shows/)
    expect(whyNotDone(read, { ...free, typed: { ...nothing, swr: 2 } })).toBeNull()
    expect(whyNotDone(read, { ...free, typed: { ...nothing, reflectedW: 2 } })).toMatch(/Enter/)
  })

  test('a rule that says unkey, until somebody goes on all the same', () => {
    expect(whyNotDone(read, { ...free, stopped: true })).toMatch(/Unkey first/)
    expect(whyNotDone(read, { ...free, stopped: true, wentOn: true })).toBeNull()
    const later = { against: [], stopped: true }
    expect(whyNotDone(read, { ...free, known: later })).toMatch(/Unkey first/)
    expect(whyNotDone(read, { ...free, known: later, wentOn: true })).toBeNull()
  })

  test('what stands against keying, until somebody says that they know why', () => {
    const known = { against: ['a tuner that is not set'], stopped: false }
    expect(whyNotDone(read, { ...free, known })).toMatch(/Not yet/)
    expect(whyNotDone(read, { ...free, known, despite: true })).toBeNull()
    // Going on past a reading is no leave to key.
    expect(whyNotDone(read, { ...free, known, wentOn: true })).toMatch(/Not yet/)
    // And leave to key is none to go on past a reading.
    const both = { ...known, stopped: true }
    expect(whyNotDone(read, { ...free, known: both, despite: true })).toMatch(/Unkey first/)
  })
})
