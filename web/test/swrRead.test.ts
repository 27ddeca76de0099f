/** An SWR that was read elsewhere than at the antenna: carried to the feed point, kept as typed, and following the cables. */
import type { ChainDocument } from '@saltline/contract'
import { cableClasses, solveChain } from '@saltline/core'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { answerChannel, chainOfDocument } from '../src/model/answers.ts'
import { takeAlternative } from '../src/model/alternatives.ts'
import { changeStage, removeStage } from '../src/model/edits.ts'
import { copyOfClass } from '../src/model/stages/line.ts'
import {
  carriedLoad,
  carrySwr,
  feedPointWords,
  followReadings,
  keptSwr,
  placeRead,
  placesOfSwr,
  swrLoad,
  withoutReads,
} from '../src/model/swrRead.ts'
import { document as fixture } from './fixtures.ts'

const cableOf = (id: string) => copyOfClass(cableClasses.find((one) => one.id === id)!)
const line = (id: string, cable: string, lengthM: number) => ({
  id,
  kind: 'line' as const,
  name: id,
  lengthM,
  cable: cableOf(cable),
})

/** 100 W through 8 m of 5 mm and 35 m of 10 mm, both solid polyethylene. */
const tried: ChainDocument = {
  ...fixture,
  transmitter: { name: 'Radio', ratedW: 100, behaviour: 'levelled', foldback: [] },
  stages: [line('lead', 'pe-5', 8), line('run', 'pe-10', 35)],
  channels: [{ id: 'c1', frequencyHz: 7.1e6, mode: 'key-down', powerW: 100 }],
}

const read = (document: ChainDocument, swr: number, place: string): ChainDocument => {
  const kept = keptSwr(document, swr, place, 7.1e6)
  if ('problem' in kept) throw new Error(kept.problem)
  return {
    ...document,
    load: swrLoad('Antenna', kept, 7.1e6),
  }
}

describe('carried to the feed point', () => {
  test('2.6 at the radio of the chain that was tried is 3.4 at its antenna', () => {
    const at = carrySwr(tried, { swr: 2.6 }, 7.1e6)
    expect(at.possible && at.swr).toBeCloseTo(3.4, 1)
    // Lines of 50 Ω keep the size, whatever the phase: (SWR − 1)/(SWR + 1) · 10^(2 · dB / 20).
    const rho = (swr: number) => (swr - 1) / (swr + 1)
    const wayDb = (20 * Math.log10(rho(at.possible ? at.swr : NaN) / rho(2.6))) / 2
    expect(wayDb).toBeGreaterThan(0.75)
    expect(wayDb).toBeLessThan(1)
    // Its lines are not quite of 50 Ω there, since their loss turns the impedance a little.
    expect(at.possible && at.high - at.low).toBeLessThan(0.5)
  })

  test('what a meter shows there is what was typed, by the solver', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            cable: fc.constantFrom('pe-5', 'pe-10', 'foam-10'),
            lengthM: fc.double({ min: 0.5, max: 40, noNaN: true }),
          }),
          { minLength: 1, maxLength: 4 },
        ),
        fc.double({ min: 1.2, max: 2.2, noNaN: true }),
        fc.double({ min: 2e6, max: 30e6, noNaN: true }),
        fc.nat(),
        (cables, swr, hz, pick) => {
          const stages = cables.map(({ cable, lengthM }, i) => line(`l${i}`, cable, lengthM))
          const way = { ...tried, stages }
          const places = placesOfSwr(way)
          const at = pick % stages.length
          const kept = keptSwr(way, swr, places[at]!.value, hz)
          if ('problem' in kept) return
          // All round the circle, by impedances that the solver takes as they are.
          const rho = (kept.swr - 1) / (kept.swr + 1)
          const shown = Array.from({ length: 90 }, (_, k) => {
            const phase = (k * Math.PI) / 45
            const below = 1 - 2 * rho * Math.cos(phase) + rho * rho
            const { planes } = solveChain(
              {
                transmitter: tried.transmitter,
                stages,
                load: {
                  kind: 'fixed',
                  rOhm: (50 * (1 - rho * rho)) / below,
                  xOhm: (100 * rho * Math.sin(phase)) / below,
                },
              },
              { frequencyHz: hz, powerW: 50 },
            )
            return planes[at]!.swr
          })
          expect(Math.min(...shown)).toBeLessThan(swr * 1.005)
          expect(Math.max(...shown)).toBeGreaterThan(swr * 0.995)
        },
      ),
      { numRuns: 150 },
    )
  })

  test.each([7.1e6, 'bands'] as const)(
    'wherever the antenna lies that shows it: no other SWR stands at the place it was read (%s)',
    (kind) => {
      fc.assert(
        fc.property(
          fc.record({
            z0Ohm: fc.constantFrom(35, 50, 75),
            leadM: fc.double({ min: 0.5, max: 15, noNaN: true }),
            runM: fc.double({ min: 5, max: 40, noNaN: true }),
            swr: fc.double({ min: 1, max: 3, noNaN: true }),
            atRun: fc.boolean(),
          }),
          ({ z0Ohm, leadM, runM, swr, atRun }) => {
            const stages = [
              line('lead', 'pe-5', leadM),
              { ...line('run', 'pe-10', runM), cable: { ...cableOf('pe-10'), z0Ohm } },
            ]
            const way = { ...tried, stages }
            const kept = keptSwr(way, swr, atRun ? 'run' : 'radio', 7.1e6)
            if ('problem' in kept) return
            const single = swrLoad('Antenna', kept, 7.1e6)
            const load =
              kind === 'bands'
                ? {
                    kind,
                    name: 'Antenna',
                    bands: [{ readings: [{ frequencyHz: 7.1e6, ...kept }] }],
                  }
                : single
            // Where some of the circle would have to be active, it is cut off there.
            const { circle } = kept
            if (!circle || Math.hypot(circle.re, circle.im) + circle.radius > 0.999) return
            const answer = answerChannel(
              chainOfDocument({ ...way, load }, undefined)!,
              tried.transmitter,
              tried.channels[0]!,
            )
            if (!answer.ok) throw new Error(answer.message)
            const { low, high } = answer.spread!.planes[atRun ? 1 : 0]!.swr
            expect(low).toBeCloseTo(swr, 4)
            expect(high).toBeCloseTo(swr, 4)
          },
        ),
        { numRuns: 60 },
      )
    },
  )

  test('the watts of the chain that was tried, with foldback, follow from the SWR that its radio sees', () => {
    const foldback: [number, number][] = [
      [2, 1],
      [3, 0.5],
    ]
    const folded = read({ ...tried, transmitter: { ...tried.transmitter, foldback } }, 2.6, 'radio')
    const answer = answerChannel(
      chainOfDocument(folded, undefined)!,
      folded.transmitter,
      folded.channels[0]!,
    )
    if (!answer.ok) throw new Error(answer.message)
    // At 2.6 it gives 70 of 100 W, whatever the phase.
    const { forwardW } = answer.spread!.planes[0]!
    expect(forwardW.low).toBeCloseTo(70, 3)
    expect(forwardW.high).toBeCloseTo(70, 3)
  })

  test('a line that is not of 50 Ω leaves a range, and the middle is in it', () => {
    const stages = [{ ...line('run', 'pe-10', 12.3), cable: { ...cableOf('pe-10'), z0Ohm: 75 } }]
    const at = carrySwr({ ...tried, stages }, { swr: 2 }, 7.1e6)
    if (!at.possible) throw new Error(at.message)
    expect(at.low).toBeLessThan(at.swr)
    expect(at.high).toBeGreaterThan(at.swr)
    expect(feedPointWords({ ...tried, stages }, { read: { swr: 2 } }, 7.1e6)).toMatch(
      /by the phase/,
    )
  })

  test('what an open end could not show is refused in words', () => {
    const stages = [line('run', 'pe-5', 300)]
    expect(keptSwr({ ...tried, stages }, 6, 'radio', 28e6)).toMatchObject({
      problem: expect.stringMatching(/^An SWR of 6.* even an open end would show/) as string,
    })
  })

  test('a tuner hides the antenna from the radio: only places behind it are offered', () => {
    const tuner = {
      id: 'tuner',
      kind: 'tuner' as const,
      name: 'Tuner',
      method: 'given' as const,
      lossDb: 0.2,
      residualSwr: 1,
    }
    const stages = [tried.stages[0]!, tuner, tried.stages[1]!]
    const values = placesOfSwr({ ...tried, stages }).map(({ value }) => value)
    expect(values).toEqual(['run', 'load'])
    expect(keptSwr({ ...tried, stages }, 2, 'radio', 7.1e6)).toHaveProperty('problem')
    const bypassed = [stages[0]!, { ...tuner, bypassed: true as const }, stages[2]!]
    expect(placesOfSwr({ ...tried, stages: bypassed })[0]!.value).toBe('radio')
  })
})

describe('kept as it was typed', () => {
  test('at the antenna there is nothing to carry', () => {
    expect(keptSwr(tried, 2.6, 'load', 7.1e6)).toEqual({ swr: 2.6 })
    expect(placeRead({})).toBe('load')
  })

  test('taken for one at the antenna, the same figure promises more watts than arrive', () => {
    const watts = (document: ChainDocument) => {
      const answer = answerChannel(
        chainOfDocument(document, undefined)!,
        document.transmitter,
        document.channels[0]!,
      )
      return answer.ok ? answer.solution.antennaW : NaN
    }
    expect(watts(read(tried, 2.6, 'load'))).toBeGreaterThan(watts(read(tried, 2.6, 'radio')) * 1.02)
  })

  test('a cable that is corrected carries it anew, one that is bought does not', () => {
    const before = read(tried, 2.6, 'radio')
    const longer = changeStage('run', (own) => ({ ...own, lengthM: 60 }) as typeof own)(before)
    const after = followReadings(before, longer)
    expect(after.load).toMatchObject({ read: { swr: 2.6, frequencyHz: 7.1e6 } })
    expect((after.load as { swr: number }).swr).toBeGreaterThan(
      (before.load as { swr: number }).swr + 0.1,
    )
    // Other figures than those of the way change nothing of it.
    const renamed = { ...before, name: 'Another name' }
    expect(followReadings(before, renamed)).toBe(renamed)

    const alternative = {
      id: 'new',
      name: 'Thick run',
      changes: [{ kind: 'cable' as const, stageId: 'run', cable: cableOf('foam-10') }],
    }
    const bought = takeAlternative('new')({
      ...before,
      alternatives: [alternative],
    } as ChainDocument)
    expect(followReadings(before, bought).load).toEqual(withoutReads(before.load))
  })

  test('readings band by band, each from its place', () => {
    const reading = (swr: number, place: string, frequencyHz: number) => ({
      frequencyHz,
      ...(keptSwr(tried, swr, place, frequencyHz) as { swr: number }),
    })
    const load = {
      kind: 'bands' as const,
      name: 'Vee',
      bands: [
        { readings: [reading(2, 'radio', 7.1e6)] },
        { readings: [reading(1.8, 'run', 14.2e6), reading(1.5, 'load', 14.3e6)] },
      ],
    }
    const shorter = {
      ...tried,
      load,
      stages: tried.stages.map((own) => ({ ...own, lengthM: 0.1 })),
    } as ChainDocument
    const carried = carriedLoad(shorter)
    const swrs =
      carried.kind === 'bands'
        ? carried.bands.flatMap(({ readings }) => readings.map(({ swr }) => swr))
        : []
    expect(swrs[0]).toBeCloseTo(2, 1)
    expect(swrs[0]).toBeLessThan(load.bands[0]!.readings[0]!.swr)
    expect(swrs[1]).toBeCloseTo(1.8, 1)
    expect(swrs[2]).toBe(1.5)
  })

  test('the part that it was read in front of is gone: said, and the figure stays', () => {
    const before = read(tried, 2, 'run')
    const after = followReadings(before, removeStage('run')(before))
    expect(after.load).toEqual(before.load)
    expect(feedPointWords(after, { read: { swr: 2, before: 'run' } }, 7.1e6)).toMatch(
      /no longer in the chain/,
    )
  })
})
