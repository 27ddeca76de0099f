import type { Cause, NextReading } from '@saltline/core'
import { expect, test } from 'vitest'
import { COSTS, costNames } from '../src/model/readingCosts.ts'
import {
  causeAdvice,
  causeTitle,
  evidenceWords,
  endWords,
  howWords,
  setPowerOf,
  siteWords,
  swapWords,
} from '../src/model/causeWords.ts'
import { stepOf } from '../src/model/nextStep.ts'

const names = {
  stages: ['patch lead', 'arrester', 'mast run', 'joint'],
  channels: ['144 MHz', '150 MHz', '156 MHz'],
  instruments: ['first meter', 'second meter', 'third meter'],
  readings: ['the first reading', 'the second reading'],
}

test('every cause has a title and an advice', () => {
  const all: Cause[] = [
    { kind: 'none' },
    { kind: 'transmitter', db: 2, point: 0 },
    { kind: 'loss', from: 0, to: 3, db: 1 },
    { kind: 'loss', from: 1, to: 2, db: 1 },
    { kind: 'aged', stage: 2, factor: 2 },
    { kind: 'antenna', change: { kind: 'moved', share: -0.03 }, point: null },
    { kind: 'antenna', change: { kind: 'other', by: { re: 0.2, im: 0 } }, point: 1 },
    { kind: 'meter', instrument: 0, factor: 0.1, why: 'scale' },
    { kind: 'averaging', instrument: 2 },
    { kind: 'common mode', rho: 0.2 },
    { kind: 'slip', reading: 1 },
    { kind: 'loss', from: 1, to: 2, db: 1, joint: true },
    { kind: 'other' },
  ]
  const titles = all.map((cause) => causeTitle(cause, names))
  expect(new Set(titles).size).toBe(all.length)
  expect(titles[4]).toBe('mast run aged: 2.0 times its loss')
  for (const cause of all) expect(causeAdvice(cause)).toMatch(/\.$/)
})

test.each<[Cause, RegExp]>([
  [{ kind: 'none' }, /^Nothing is wrong$/],
  [{ kind: 'transmitter', db: -3, point: null }, /^Transmitter down by 3 dB on every channel$/],
  [{ kind: 'transmitter', db: -4, point: 1 }, /^Transmitter down by 4 dB on 150 MHz$/],
  [{ kind: 'loss', from: 2, to: 3, db: 2.5 }, /^2\.5 dB lost in mast run or joint$/],
  [{ kind: 'meter', instrument: 0, factor: 0.1, why: 'scale' }, /^first meter on the wrong scale/],
  // 100 Ω in a line of 50: 20·log₁₀ 2.
  [{ kind: 'loss', from: 3, to: 3, db: 6.0206, joint: true }, /^Joint of 100 Ω \(6 dB\) in joint$/],
])('%j is called as at the bench', (cause, title) => {
  expect(causeTitle(cause, names).replaceAll('\u00a0', ' ')).toMatch(title)
})

test('a reading to take names its place and frequency', () => {
  expect(siteWords({ point: 1, plane: 0 }, ['at the radio'], [144e6, 150e6])).toBe(
    'at the radio on 150.000\u00a0MHz',
  )
})

test('a lead to swap says what the meter shows with it, and with a good one', () => {
  const swap = {
    stage: 0,
    site: { point: 1, plane: 2, instrument: 0 },
    settles: 0.57,
    cost: 2,
    cause: { kind: 'loss', from: 0, to: 0, db: 1.1 } as const,
    showsW: [17.5, 22.6] as [number, number],
  }
  expect(swapWords(swap).replaceAll('\u00a0', ' ')).toBe(
    'with the transmitter off while you swap; reduces the uncertainty about the cause by about 57 %: 18 W becomes 23 W if the lead is at fault',
  )
})

test('evidence says which way it speaks', () => {
  expect(evidenceWords(8.2).replaceAll('\u00a0', ' ')).toBe('8 dB for')
  expect(evidenceWords(-12.6).replaceAll('\u00a0', ' ')).toBe('13 dB against')
})

test('a place costs what was said of it, and of what nothing sensible was said is at the desk', () => {
  expect(costNames(['a', 'b', 'c'], { b: 'no', z: 'climb', c: 'toString' as never })).toEqual([
    'desk',
    'no',
    'desk',
  ])
  expect(COSTS.no.cost).toBeNull()
})

test('a reading that is advised says its power where that is another, and another meter', () => {
  const made = {
    kase: {
      channels: [100, 18].map((powerW) => ({
        frequencyHz: 144e6,
        powerW,
        emission: { mode: 'FM' as const },
      })),
    },
    own: [
      { id: 'c1', powerW: 100 },
      { id: 'c1', powerW: 100 },
    ],
  }
  const next: NextReading = {
    ...{ point: 0, plane: 1, instrument: 0, share: 1, settles: 0.4, cost: 1, then: null },
    farEnd: 'antenna',
    between: [{ kind: 'none' }, { kind: 'other' }],
    expectsW: [90, 50],
  }
  expect(setPowerOf(next, made)).toBeNull()
  expect(howWords(next, made, 'W')).toBe('')
  const less = { ...next, share: 0.1834, instrument: null }
  expect(setPowerOf(less, made)).toBe(18)
  expect(howWords(less, made, 'W')).toBe(', at 18\u00a0W, with another meter')
  // A point that was read at less power is read at it again.
  const again = { ...next, point: 1 }
  expect(setPowerOf(again, made)).toBe(18)
  expect(howWords(again, made, 'W')).toBe(', at 18\u00a0W')
  // A channel that the chain has no more is set to what it was read at.
  expect(setPowerOf(next, { ...made, own: [null, null] })).toBe(100)
  // With a load in the antenna's place the form is to stand so, and the line says it.
  const [first] = made.kase.channels
  const onLoad = { ...made, kase: { channels: [{ ...first!, farEnd: 'load' as const }] } }
  expect(howWords(next, onLoad, 'W')).toBe(', with a dummy load in the antenna’s place')
  expect(stepOf(next, onLoad)).toEqual({ plane: 1, channelId: 'c1', setW: null, farEnd: 'load' })
  expect(endWords('open')).toBe(', with the antenna disconnected')
  expect(endWords()).toBe('')
  expect(stepOf(less, made)).toEqual({ plane: 1, channelId: 'c1', setW: 18, farEnd: 'antenna' })
})
