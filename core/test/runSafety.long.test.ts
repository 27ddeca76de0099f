import { describe, expect, test } from 'vitest'
import {
  afterDone,
  against,
  checkSheet,
  missingFor,
  planRun,
  runModel,
  runSheets,
} from '../src/index.ts'
import { doneAsMeant } from '../src/runs/plan.ts'
import { atTheBeginning } from '../src/runs/station.ts'
import { mutant } from './runMutants.ts'
import { chance, drawnStation } from './runStation.ts'
import { obey, walkSheet } from './runWalk.ts'
import { drawn } from './drawn.ts'

/** Ten thousand of them in core/bench/runs.ts. */
const STATIONS = [
  ...Array.from({ length: drawn(8, 100) }, (_, seed) => seed),
  // Set, the tuner left the radio folded back, below its licence; while it is set, the radio may meet a match.
  302_071,
  // The same, and the tuner itself was over its rating.
  404_867,
]

const sheetsOf = (seed: number) => {
  const { station, phaseRad } = drawnStation(seed)
  const model = runModel(station)
  return runSheets
    .filter((sheet) => missingFor(station.chain, sheet).length === 0)
    .map((sheet) => ({ sheet, model, phaseRad, channel: station.channels[0]! }))
}

describe('run sheets on stations of every kind', () => {
  test.each(STATIONS)('station %i: whatever the operator does, nothing keyed hurts', (seed) => {
    let keyed = 0
    for (const { sheet, model, phaseRad } of sheetsOf(seed)) {
      const walked = walkSheet(sheet, model, chance(seed * 31 + 7), phaseRad)
      expect(walked.harm).toEqual([])
      keyed += walked.keyed
    }
    expect(keyed).toBeGreaterThan(0)
  })

  test.each(STATIONS)('station %i: who does every step is never refused one', (seed) => {
    for (const { sheet, model, channel } of sheetsOf(seed)) {
      let state = atTheBeginning
      for (const step of planRun(sheet, model, channel)) {
        if (step.dangers) continue
        expect({ step: step.id, against: against(model, step, state) }).toEqual({
          step: step.id,
          against: [],
        })
        state = afterDone(model, step, state, doneAsMeant(state, step))
      }
    }
  })

  test('a sheet that ships is never wrong itself: what is left out is left out for the chain', () => {
    const wrong = STATIONS.flatMap((seed) =>
      sheetsOf(seed)
        // A tuner in front of an amplifier is set for what it meets with the amplifier in bypass.
        .filter(({ model: { station } }) => {
          const kinds = station.chain.stages.map(({ kind }) => kind)
          return !(
            kinds.indexOf('tuner') >= 0 && kinds.lastIndexOf('amplifier') > kinds.indexOf('tuner')
          )
        })
        .flatMap(({ sheet, model, channel }) =>
          checkSheet(sheet, model, channel)
            .filter(({ of }) => of === 'sheet')
            .map((danger) => ({ seed, sheet: sheet.id, ...danger })),
        ),
    )
    expect(wrong).toEqual([])
  })

  test('a sheet made worse is caught wherever that makes it dangerous', () => {
    let dangerous = 0
    const missed: string[] = []
    for (const seed of STATIONS)
      for (const { sheet, model, phaseRad, channel } of sheetsOf(seed)) {
        const made = mutant(sheet, chance(seed * 977 + sheet.id.length))
        if (obey(made.sheet, model, chance(seed * 7), phaseRad).length === 0) continue
        dangerous++
        if (checkSheet(made.sheet, model, channel).length === 0)
          missed.push(`station ${seed}, ${sheet.id}: ${made.change}`)
      }
    expect(dangerous).toBeGreaterThan(10)
    expect(missed.length / dangerous).toBeLessThan(0.05)
  })
})
