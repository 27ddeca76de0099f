import { chainDocumentSchema, type Station } from '@saltline/contract'
import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import {
  answerChain,
  checkLimits,
  type Fault,
  faultsOf,
  type MostPower,
  type RatedChain,
  readTouchstone,
  type Stress,
} from '@saltline/core'
import * as demo from '../../server/src/demo/merrowPoint.ts'
import { chainOfDocument, operatingPoint } from '../src/model/answers.ts'
import * as edits from '../src/model/edits.ts'
import { cardRow, type CardRow } from '../src/pages/card/cardRow.ts'
import { papers, splitOn } from '../src/pages/card/papers.ts'
import type { Paper } from '../src/ui/paper.ts'
import { faultVerdict } from '../src/lenses/headroom/FaultTable.tsx'
import {
  figureOf,
  headroomText,
  isPart,
  placeText,
  surroundingsOf,
  verdictText,
} from '../src/model/headroomWords.ts'
import { marksOf } from '../src/spine/marks.ts'
import { document as plain } from './fixtures.ts'

/** The fixture's cables by their class, so that their limits are known. */
const lead = edits.newStage('line', plain)
const document = {
  ...plain,
  stages: plain.stages.map((stage) =>
    stage.kind === 'line' && lead.kind === 'line' ? { ...stage, cable: lead.cable } : stage,
  ),
}
const chain = chainOfDocument(document, undefined) as RatedChain
const [voice, data] = document.channels
const station: Station = {
  id: 's',
  name: 'Merrow Point',
  place: '',
  note: '',
  swrLimit: 2,
  environment: 'rural',
  currency: 'EUR',
  prices: { perM: {} },
  chains: [],
  gear: [],
  antennas: [],
}

const heat: Stress = {
  part: 2,
  kind: 'heat',
  stress: 2,
  limit: 4,
  unit: 'W/m',
  basis: 'mean',
  fromLoadM: 12.5,
  headroomDb: 3.01,
}
const verdict = (most: MostPower, settingW = 100) =>
  verdictText(document, data!, settingW, most, 'm')

describe('a verdict', () => {
  test.each([
    [
      { powerW: 210, by: heat, unknown: 0 },
      /^Good to 210.W on data\. The limiting part is Run \(heating, 12\.5.m from its antenna end\)\.$/,
    ],
    [
      { powerW: 40, by: heat, unknown: 2 },
      /^Too much: on 8\.294.MHz data is limited to 40.W by Run .*2 limits are not known\.$/,
    ],
    [
      { powerW: Infinity, by: null, unknown: 3 },
      /^No limit is known of any part .*3 limits are not known/,
    ],
    [{ powerW: Infinity, by: heat, unknown: 0 }, /^Good at any power/],
    [
      {
        powerW: 0,
        by: { ...heat, kind: 'SWR', unit: '', stress: 3.4, limit: 3, headroomDb: null },
        unknown: 0,
      },
      /trips at any power: its SWR of 3\.40 is over 3\.00/,
    ],
  ] as [MostPower, RegExp][])('%#', (most, words) => {
    expect(verdict(most)).toMatch(words)
  })
})

describe('stresses in words', () => {
  test('figures carry their units, places their end', () => {
    expect(figureOf(heat, 2)).toMatch(/2\.0.W\/m/)
    expect(figureOf({ ...heat, unit: 'V peak' }, 230)).toMatch(/230.V peak/)
    expect(figureOf({ ...heat, unit: '' }, 1.5)).toBe('1.50')
    expect(placeText({ ...heat, fromLoadM: 0.01 }, 'm')).toBe('at its antenna end')
    expect(placeText(heat, 'ft')).toMatch(/41.ft/)
    expect(headroomText(heat)).toMatch(/3\.0.dB/)
    expect(headroomText({ ...heat, headroomDb: -1.2 })).toMatch(/1\.2.dB over/)
    expect(headroomText({ ...heat, limit: null, headroomDb: null })).toBe('? not known')
  })

  test('a licence and the radio’s rating are no parts', () => {
    expect(isPart(heat)).toBe(true)
    expect(isPart({ ...heat, kind: 'licence' })).toBe(false)
    expect(isPart({ ...heat, kind: 'power', part: -1 })).toBe(false)
    expect(isPart({ ...heat, kind: 'power', part: 1 })).toBe(true)
  })

  test('the day is as hot as cable ratings take it, unless it is said', () => {
    expect(surroundingsOf(document, voice!).ambientC).toBe(40)
    expect(surroundingsOf({ ...document, ambientC: 10 }, voice!).ambientC).toBe(10)
    const at = operatingPoint(document.transmitter, data!)
    const limitAt = (ambientC: number) =>
      checkLimits(chain, at, surroundingsOf({ ...document, ambientC }, data!)).stresses.find(
        (s) => s.kind === 'heat' && s.part === 2,
      )!.limit!
    expect(limitAt(60)).toBeLessThan(limitAt(40))
  })
})

describe('marks on the spine', () => {
  const marks = (powerW: number) =>
    marksOf(
      document,
      data!,
      checkLimits(
        chain,
        { frequencyHz: data!.frequencyHz, powerW },
        surroundingsOf(document, data!),
      ).solution,
    )

  test('a shape and a word where a stage is tight or over, nothing where it is fine', () => {
    expect(marks(10)).toEqual([null, null, null])
    const rated = marks(1000)
    expect(rated[0]).toBe('▲ heating')
    expect(rated[1]).toBeNull()
    const tight = Array.from({ length: 60 }, (_, i) => marks(20 * 1.1 ** i)[0]).filter((m) =>
      m?.startsWith('◐'),
    )
    expect(tight.length).toBeGreaterThan(3)
  })
})

describe('faults in a sentence', () => {
  const fault = (held: number | null, unheld: number | null): Fault => {
    const stress = (headroomDb: number | null) =>
      headroomDb === null
        ? null
        : { ...heat, headroomDb, limit: 4, stress: 4 / 10 ** (headroomDb / 10) }
    return { kind: 'open', plane: 3, held: stress(held), unheld: stress(unheld), soonS: null }
  }
  test.each([
    [[fault(-1, -8)], /Run goes first in spite of the foldback: heating, 1\.0.dB over/],
    [[fault(3, -2)], /only the foldback protects Run; without it, it would be 2\.0.dB over/],
    [[fault(3, 2)], /^No fault/],
    [[fault(null, null)], /cannot be said/],
  ])('%#', (faults, words) => expect(faultVerdict(document, faults)).toMatch(words))

  test('of a real chain they are in its order', () => {
    const faults = faultsOf(
      chain,
      operatingPoint(document.transmitter, data!),
      surroundingsOf(document, data!),
      2,
    )
    expect(faults.map(({ kind }) => kind)).toEqual(['open', 'short', 'joint', 'joint', 'worstSwr'])
  })
})

describe('a row of the card', () => {
  const rowOn = (...args: Parameters<typeof cardRow>): CardRow => {
    const line = cardRow(...args)
    if (!line.ok) throw new Error(line.message)
    return line.row
  }
  const row = rowOn(station, document, chain, voice!)

  test('says what to set, what the meter reads, the most, and where to stop', () => {
    expect(row.setW).toBe(100)
    expect(row.wantedW).toBe(100)
    expect(row.meters).toHaveLength(1)
    expect(row.meters[0]).toMatchObject({ name: 'Meter' })
    expect(row.meters[0]!.forward.watts).toBeCloseTo(row.meters[0]!.forwardPepW * 0.2, 9)
    expect(row.meters[0]!.normalSwr).toBeGreaterThan(row.meters[0]!.swr)
    expect(row.allowedW).toBeLessThanOrEqual(100)
    expect(row.stopSwr).toBeGreaterThanOrEqual(2)
    expect(row.tuners).toEqual([])
  })

  test('a chain without a meter is read at the radio; a licence bounds the most', () => {
    const bare = { ...document, stages: [document.stages[0]!] }
    const own = chainOfDocument(bare, undefined)!
    expect(rowOn(station, bare, own, voice!).meters[0]!.name).toBe('at the radio')
    const licensed = { ...document, licence: { kind: 'PEP' as const, watts: 30 } }
    const limited = rowOn(station, licensed, chainOfDocument(licensed, undefined)!, voice!)
    expect(limited.allowedW).toBeLessThanOrEqual(30)
    expect(limited.allowedW).toBeGreaterThan(28.9)
    expect(limited).toMatchObject({ wantedW: 100, setW: limited.allowedW })
  })

  test('tuners: dial marks and settings by hand, or that they set themselves', () => {
    const tuner = edits.newStage('tuner', document)
    if (tuner.kind !== 'tuner' || tuner.method !== 'network') throw new Error('not by hand')
    const rowOf = (stage: typeof tuner) => {
      const own = {
        ...document,
        stages: [stage, ...document.stages],
        load: { kind: 'fixed' as const, name: 'Vee', rOhm: 110, xOhm: 40 },
      }
      return rowOn(station, own, chainOfDocument(own, undefined)!, voice!)
    }
    const byHand = rowOf({ ...tuner, dials: { c1: ['4', '', '7'] } })
    expect(byHand.tuners[0]).toMatchObject({ name: 'Tuner', dials: '4 · 7' })
    expect(byHand.tuners[0]!.setting).toMatch(/^[\d.]+.pF · [\d.]+.[µn]H · [\d.]+.pF$/)
    expect(rowOf({ ...tuner, automatic: true }).tuners[0]!.setting).toBe('sets itself')
  })

  describe('of the demo station', () => {
    const sweepOf = (id: string) => {
      const { file } = demo.antennas.find(({ sweepId }) => sweepId === id)!
      const path = new URL(`../../server/src/demo/antennas/${file}`, import.meta.url)
      return { kind: 'sweep' as const, ...readTouchstone(readFileSync(path, 'utf8'), 50) }
    }
    test.each(demo.chains.map(({ id, document }) => [id, document] as const))(
      '%s: every row is solved at the power that it tells to set',
      (_, raw) => {
        const document = chainDocumentSchema.parse(raw)
        const { load } = document
        const chain = chainOfDocument(
          document,
          load.kind === 'antenna' ? sweepOf(load.sweepId) : undefined,
        )!
        for (const channel of document.channels) {
          const row = rowOn(station, document, chain, channel)
          expect(row.setW).toBeLessThanOrEqual(row.allowedW)
          expect(row.setW).toBeLessThanOrEqual(row.wantedW)
          const { solution } = answerChain(chain, {
            ...operatingPoint(document.transmitter, channel),
            powerW: row.setW,
          })
          expect(row.antennaW).toBe(solution.antennaW)
          const meter = document.stages.findIndex((s) => s.kind === 'pad' && s.part === 'meter')
          expect(row.meters[0]!.forwardPepW).toBe(solution.planes[Math.max(0, meter)]!.forwardW)
          // What is told to be set breaks nothing.
          const { stresses } = checkLimits(
            chain,
            { ...operatingPoint(document.transmitter, channel), powerW: row.setW },
            surroundingsOf(document, channel),
          )
          for (const stress of stresses.filter(isPart))
            if (stress.headroomDb !== null) expect(stress.headroomDb).toBeGreaterThanOrEqual(0)
        }
      },
    )

    test('the amplifier’s row on 4.146 MHz: set 21 W, and 303 W at the meter', () => {
      const document = chainDocumentSchema.parse(
        demo.chains.find(({ id }) => id === 'hf-amplifier')!.document,
      )
      const { load } = document
      if (load.kind !== 'antenna') throw new Error('not a swept antenna')
      const chain = chainOfDocument(document, sweepOf(load.sweepId))!
      const channel = document.channels.find((c) => c.frequencyHz === 4.146e6)!
      const row = rowOn(station, document, chain, channel)
      expect(row.setW).toBe(21)
      expect(Math.round(row.meters[0]!.forwardPepW)).toBe(303)
    })
  })

  test('a channel without a figure says why', () => {
    const sweep = { kind: 'sweep' as const, frequencyHz: [1e6, 2e6], re: [0, 0], im: [0, 0] }
    expect(cardRow(station, document, { ...chain, load: sweep }, voice!)).toMatchObject({
      ok: false,
      message: expect.stringMatching(/was measured from .* no figure at/) as string,
    })
  })

  test('papers are as wide as each other within a hand’s breadth', () => {
    const widths = papers.map(({ widthMm }) => widthMm)
    expect(Math.max(...widths) - Math.min(...widths)).toBeLessThan(10)
  })
})

describe('the card on paper', () => {
  const [a5, a4, letter] = papers as readonly Paper[] as [Paper, Paper, Paper]
  test.each([
    [a5, 4, [4]],
    [a5, 8, [4, 4]],
    [a4, 12, [12]],
    [letter, 11, [11]],
    [letter, 12, [6, 6]],
    [a5, 9, [3, 3, 3]],
  ])('%o with %i channels', (paper, channels, pages) => {
    expect(splitOn(paper, channels).pages).toEqual(pages)
  })

  test('few channels are printed larger where there is room', () => {
    expect(splitOn(a4, 4).scale).toBeCloseTo(1.2, 9)
    expect(splitOn(a5, 4).scale).toBe(1)
  })
})
