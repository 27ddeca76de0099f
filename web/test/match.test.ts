import { describe, expect, test } from 'vitest'
import { ledgerOf, type PlaceAnswer, solveChain, type TunerPlace } from '@saltline/core'
import { chainDocumentSchema } from '@saltline/contract'
import {
  answerChannel,
  chainOfDocument,
  operatingPoint,
  ratedOn,
  settingOf,
} from '../src/model/answers.ts'
import { describeChange } from '../src/model/describeChange.ts'
import * as edits from '../src/model/edits.ts'
import { builtInTuner, tunerKinds } from '../src/model/stages/tuner.ts'
import { topOf } from '../src/model/zoom.ts'
import { ledgerAsText } from '../src/lenses/budget/ledgerAsText.ts'
import { factsOf, takersSentence } from '../src/model/sentence.ts'
import { totalWorking, workingOf } from '../src/lenses/budget/working.ts'
import { verdictOf } from '../src/lenses/match/verdict.ts'
import { layOut, legsOf, netBand } from '../src/spine/geometry.ts'
import { saltText, stageFigure, toneOf } from '../src/spine/stageText.ts'
import { document } from './fixtures.ts'

const amplifier = edits.newStage('amplifier', document)
const tuner = edits.newStage('tuner', document)
/** Exciter, amplifier, tuner, then the fixture's own stages into a bad antenna. */
const amplified = {
  ...document,
  stages: [amplifier, tuner, ...document.stages],
  load: { kind: 'fixed' as const, name: 'Vee', rOhm: 22, xOhm: 60 },
}
const chain = chainOfDocument(amplified, undefined)!
const [voice, data] = amplified.channels
const solve = (over: { powerW: number; mode?: 'data' }) =>
  solveChain(chain, { frequencyHz: voice!.frequencyHz, ...over })

const answers = (watts: Record<TunerPlace, number>): PlaceAnswer[] =>
  (['none', 'radio', 'feedPoint'] as const).map((place) => ({
    place,
    antennaW: watts[place],
    antennaWRange: null,
    tunerW: 1,
    cableW: 1,
    heldBackW: 0,
    swr: 1,
    matched: true,
  }))

describe('is a tuner worth it, in words', () => {
  test.each([
    [
      { none: 95, radio: 92, feedPoint: 93 },
      'none',
      /No tuner wins: 95.W against 92.W .* take 0\.14.dB/,
    ],
    [{ none: 95, radio: 94.9, feedPoint: 94.8 }, 'none', /makes no difference/],
    [{ none: 95, radio: 95.5, feedPoint: 95.2 }, 'radio', /makes no difference/],
    [
      { none: 40, radio: 80, feedPoint: 70 },
      'radio',
      /at the radio wins by 3\.0.dB: 80.W against 40.W/,
    ],
    [
      { none: 1.5, radio: 12, feedPoint: 86 },
      'feedPoint',
      /86.W, 8\.6.dB more than at the radio \(12.W\)/,
    ],
    [{ none: 40, radio: 80, feedPoint: 80.1 }, 'feedPoint', /at the radio it does as well/],
  ] as const)('%j', (watts, place, words) => {
    const verdict = verdictOf(answers(watts))
    expect(verdict.best.place).toBe(place)
    expect(verdict.words).toMatch(words)
  })
})

describe('facts that cannot stay', () => {
  test('too much drive names the setting and the pad that cure it', () => {
    const [fact] = factsOf(amplified, solve({ powerW: 60 }), 'W')
    expect(fact).toMatchObject({ stage: 0 })
    expect(fact!.text).toMatch(
      /Too much drive: Amplifier gets .* at most 40.W.*Turn Petrel down to 40.W.* pad of at least 1\.8.dB/,
    )
    expect(factsOf(amplified, solve({ powerW: 40 }), 'W')).toEqual([])
  })

  test('a trip and a tuner out of reach are told with their limits', () => {
    const without = {
      ...amplified,
      stages: [
        amplifier,
        {
          ...edits.newStage('tuner', document),
          ...tunerKinds.given,
          reachSwr: 1.2,
          id: 't',
          name: 'Small tuner',
        },
        ...document.stages,
      ],
    }
    const solution = solveChain(
      chainOfDocument({ ...without, load: { ...amplified.load, rOhm: 2 } }, undefined)!,
      { frequencyHz: 8e6, powerW: 40 },
    )
    const texts = factsOf(without, solution, 'W').map(({ text }) => text)
    expect(texts.join(' ')).toMatch(/switch itself off: SWR .*limit is 3\.00/)
    expect(texts.join(' ')).toMatch(/Small tuner cannot match this: it matches up to SWR 1\.2/)
  })
})

describe('a chain with an amplifier on the page', () => {
  const solution = solve({ powerW: 40 })
  const slots = layOut(amplified.stages, {
    available: 1100,
    transmitter: 112,
    least: 60,
    device: 88,
  })
  const legs = legsOf(solution, slots)

  test('two legs, each with its level; the band has no step back', () => {
    expect(legs.map(({ stage }) => stage)).toEqual([-1, 0])
    expect(legs[0]!.end).toBeLessThanOrEqual(legs[1]!.start)
    expect(legs[1]!.settingW).toBeCloseTo(solution.stages[0]!.amplifier!.outputW, 9)
    expect(saltText(legs[0]!, amplified, 'W')).toMatch(/^set power 40.W$/)
    expect(saltText(legs[1]!, amplified, 'W')).toMatch(/^Amplifier: 500.W into a match$/)
    const along = netBand(amplified.stages, solution, slots).map((p) => p.along)
    along.forEach((x, i) => i > 0 && expect(x).toBeGreaterThanOrEqual(along[i - 1]!))
    expect(topOf(40, { ok: true, solution, spread: null })).toBeCloseTo(500, 0)
  })

  test('its figures under the names, alarming where they must be', () => {
    const figure = (k: number, s = solution) =>
      stageFigure(amplified.stages[k]!, 4e6, 'm', s.stages[k])
    expect(figure(0)).toMatch(/^\+ 11\.0.dB/)
    expect(figure(1)).toMatch(/^0\.\d+.dB/)
    expect(figure(0, solve({ powerW: 60 }))).toBe('▲ overdriven')
    expect(toneOf('▲ overdriven')).toBe('text-danger')
    expect(toneOf('◐ heat')).toBe('text-caution')
    expect(toneOf('46 m')).toBe('text-muted')
  })

  test('ledger and sentence: the amplifier adds, the others take', () => {
    const ledger = ledgerOf(solution)
    expect(ledger.addedW).toBeGreaterThan(400)
    expect(ledger.takenW).toBeCloseTo(40 + ledger.addedW - solution.antennaW, 9)
    expect(ledger.rows.reduce((sum, row) => sum + row.share, 0)).toBeCloseTo(1, 9)
    expect(takersSentence(amplified, solution, ledger)).not.toContain('Amplifier')
    expect(ledgerAsText(amplified, ledger).split('\n')).toHaveLength(amplified.stages.length + 2)
  })

  test('workings: drive and output, parts and their stress, the sum of it all', () => {
    const amp = workingOf(amplified, solution, 0)
    expect(amp.steps.map(({ what }) => what).join(' ')).toMatch(/Drive, net.*Output at that drive/)
    const match = workingOf(amplified, solution, 1)
    expect(match.steps.filter(({ what }) => /Coil|Capacitor/.test(what))).toHaveLength(3)
    expect(match.remarks.join(' ')).toContain('least loss')
    const total = totalWorking({ solution, spread: null })
    expect(total.steps.map(({ what }) => what)).toContain('Added by the amplifier')
  })

  test('every new kind of stage is a valid document', () => {
    for (const kind of Object.values(tunerKinds)) {
      const stages = [{ ...kind, id: 't', name: 'T' }, amplifier]
      expect(chainDocumentSchema.safeParse({ ...amplified, stages }).error).toBeUndefined()
    }
    const inside = builtInTuner('Inside', { reachSwr: 3, lossDb: 0.3 })
    expect(chainDocumentSchema.safeParse({ ...document, stages: [inside] }).success).toBe(true)
  })
})

describe('the transmitter', () => {
  const { transmitter } = document

  test('gives less while its power is reduced, and never more than set', () => {
    const reduced = { ...transmitter, reduced: { on: true, powerW: 50 } }
    expect(settingOf(transmitter, voice!)).toBe(100)
    expect(settingOf(reduced, voice!)).toBe(50)
    expect(settingOf({ ...reduced, reduced: { on: false, powerW: 50 } }, voice!)).toBe(100)
    expect(settingOf(reduced, { ...voice!, powerW: 20 })).toBe(20)
    const full = answerChannel(chainOfDocument(document, undefined)!, transmitter, voice!)
    const half = answerChannel(chainOfDocument(document, undefined)!, reduced, voice!)
    expect(full.ok && half.ok && full.solution.antennaW / half.solution.antennaW).toBeCloseTo(2, 9)
    expect(describeChange(document, { ...document, transmitter: reduced })[0]).toMatch(
      /reduced to 50.W/,
    )
  })

  test('is rated by band, and its channel’s mode goes with the power', () => {
    const banded = { ...transmitter, bands: [{ lowHz: 50e6, highHz: 54e6, ratedW: 10 }] }
    expect(ratedOn(banded, 51e6)).toBe(10)
    expect(ratedOn(banded, 7e6)).toBe(100)
    expect(operatingPoint(transmitter, data!)).toMatchObject({ mode: 'data', powerW: 50 })
  })
})
