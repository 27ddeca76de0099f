import { describe, expect, test } from 'vitest'
import {
  cableClasses,
  chainOfStep,
  expandSheet,
  type ExpandedStep,
  expectStep,
  limitsOfStep,
  missingFor,
  type RatedChain,
  type RunChannel,
  runSheets,
  setPowerOf,
  solveChain,
  stopFor,
  stopForTime,
  usualTolerances,
} from '../src/index.ts'

const cable = (id: string) => ({ ...cableClasses.find((each) => each.id === id)!, gearId: id })
const line = (lengthM: number, id: string) => ({ kind: 'line' as const, lengthM, cable: cable(id) })
const tuner = {
  kind: 'tuner' as const,
  method: 'network' as const,
  network: 'T' as const,
  shuntAt: 'either' as const,
  coilH: [0.2e-6, 25e-6] as [number, number],
  capacitorF: [18e-12, 330e-12] as [number, number],
  coilQ: 180,
  capacitorQ: 1200,
}
const meterPart = { kind: 'pad' as const, part: 'meter', lossDb: 0.06 }
const amplifier = {
  kind: 'amplifier' as const,
  gainDb: 12,
  driveW: 40,
  fullW: 500,
  behaviour: 'levelled' as const,
  foldback: [],
  inputOhm: { rOhm: 55, xOhm: 0 },
}
const radio = {
  behaviour: 'levelled' as const,
  foldback: [
    [1.5, 1],
    [3, 0.5],
  ] as [number, number][],
}
const load = { kind: 'resonator' as const, resonanceHz: 8.1e6, rOhm: 60, q: 8 }

const chains: Record<string, RatedChain> = {
  'a hand tuner': {
    transmitter: radio,
    stages: [line(1.2, 'pe-5'), meterPart, tuner, line(4, 'pe-5'), line(40, 'foam-7')],
    load,
  },
  'an amplifier and a hand tuner': {
    transmitter: radio,
    stages: [line(1, 'pe-5'), amplifier, line(1.2, 'pe-10'), meterPart, tuner, line(40, 'foam-10')],
    load,
  },
  'an automatic tuner at the antenna': {
    transmitter: radio,
    stages: [line(1.2, 'pe-5'), line(18, 'pe-10'), { ...tuner, automatic: true }],
    load,
  },
  'no tuner at all': {
    transmitter: radio,
    stages: [line(1, 'pe-5'), line(30, 'foam-10')],
    load: { kind: 'fixed', rOhm: 45, xOhm: 8 },
  },
}
const channelsOf = (powerW: number): RunChannel[] =>
  [8.294e6, 7.9e6].map((frequencyHz, i) => ({
    id: `c${i}`,
    name: `${frequencyHz / 1e6} MHz`,
    frequencyHz,
    mode: 'voice-plain' as const,
    powerW,
  }))
const meter = {
  kind: 'peak' as const,
  rangesW: [],
  accuracy: 0.05,
  accuracyOf: 'reading' as const,
}
const around = { emission: { mode: 'key-down' as const }, ambientC: 25 }

/** All sheets on all chains that they fit. */
const walks = Object.entries(chains).flatMap(([name, chain]) => {
  const channels = channelsOf(chain.stages.some(({ kind }) => kind === 'amplifier') ? 40 : 100)
  return runSheets
    .filter((sheet) => missingFor(chain, sheet).length === 0)
    .map((sheet) => ({
      title: `${sheet.title}, with ${name}`,
      chain,
      channels,
      steps: expandSheet(sheet, channels[0]!, channels, { tuneWindowW: [5, 25], tuneTimeS: 6 }),
    }))
})

/** What each read step should show, and the chain as it then stands. */
function readsOf({ chain, channels, steps }: (typeof walks)[number]) {
  return steps
    .filter(({ kind }) => kind === 'read')
    .map((step) => {
      const channel = channels.find(({ id }) => id === step.channelId)!
      return {
        step,
        channel,
        stepped: chainOfStep(chain, step, channel),
        expected: expectStep(chain, step, channel, { tolerances: usualTolerances, meter }),
      }
    })
}

describe('the sheets that ship', () => {
  test('ten of them; every chain has some, and what is missing is named', () => {
    expect(runSheets).toHaveLength(10)
    expect(new Set(runSheets.map(({ id }) => id)).size).toBe(10)
    expect(walks.length).toBeGreaterThan(20)
    const hand = runSheets.find(({ id }) => id === 'hand-tuner')!
    expect(missingFor(chains['an automatic tuner at the antenna']!, hand)).toEqual(['hand tuner'])
    expect(missingFor(chains['no tuner at all']!, hand)).toEqual(['hand tuner'])
  })

  test.each(walks)('$title: steps are whole', ({ steps }) => {
    expect(new Set(steps.map(({ id }) => id)).size).toBe(steps.length)
    expect(steps[0]!.kind).toBe('caution')
    for (const step of steps) {
      expect(step.title).not.toContain('{')
      for (const choice of step.choices ?? [])
        if (choice.backTo !== undefined) {
          const back = steps.findIndex(({ id }) => id === choice.backTo)
          expect(back).toBeGreaterThanOrEqual(0)
          expect(back).toBeLessThan(steps.indexOf(step))
        }
      if (step.kind === 'read') expect(step.figures).toBeDefined()
      if (step.kind === 'decide') expect(step.choices!.length).toBeGreaterThan(1)
    }
  })

  test.each(walks)('$title: what is expected is the solver’s', (walk) => {
    for (const { stepped, expected } of readsOf(walk)) {
      const { planes } = solveChain(stepped.chain, stepped.at)
      const { forwardW, swr } = planes[stepped.plane]!
      // The readings of a peak meter are PEP.
      expect(expected.watts / forwardW).toBeCloseTo(1, 6)
      expect(expected.swr / swr).toBeCloseTo(1, 6)
      expect(expected.wattsRange.low).toBeLessThan(expected.watts)
      expect(expected.wattsRange.high).toBeGreaterThan(expected.watts)
    }
  })

  test.each(walks)('$title: right readings stop nothing', (walk) => {
    for (const { step, stepped, expected } of readsOf(walk)) {
      const read = { forwardW: expected.watts, reflectedW: expected.reflectedW }
      const limits = limitsOfStep(stepped, around).filter(({ headroomDb }) => (headroomDb ?? 1) > 0)
      const stop = stopFor(step, read, { expected, limits })
      // A chain may really be mismatched beyond a sheet's limit: then it is right to stop.
      if (stop) expect(stop).toMatchObject({ rule: 'SWR' })
      if (stop?.rule === 'SWR') expect(expected.swr).toBeGreaterThan(step.mostSwr!)
    }
  })

  test.each(walks)('$title: half the power, and twice the SWR allowed, stop it', (walk) => {
    for (const { step, expected } of readsOf(walk)) {
      if (step.figures === 'swr') continue
      const half = { forwardW: expected.wattsRange.low * 0.45 }
      expect(stopFor(step, half, { expected })).toMatchObject({ rule: 'far below' })
      if (step.mostSwr !== undefined)
        expect(stopFor(step, { swr: step.mostSwr * 1.1 }, {})).toMatchObject({ rule: 'SWR' })
    }
  })
})

describe('stop rules', () => {
  const step: Pick<ExpandedStep, 'mostSwr'> = {}
  test('reflected that jumps, and forward that falls by half, against the reading before', () => {
    const earlier = { forwardW: 100, reflectedW: 4 }
    expect(stopFor(step, { forwardW: 100, reflectedW: 6 }, { earlier })).toBeNull()
    expect(stopFor(step, { forwardW: 100, reflectedW: 12 }, { earlier })).toMatchObject({
      rule: 'reflected',
    })
    expect(stopFor(step, { forwardW: 49, reflectedW: 2 }, { earlier })).toMatchObject({
      rule: 'forward fell',
    })
    // From next to nothing to a little is no jump.
    expect(
      stopFor(
        step,
        { forwardW: 100, reflectedW: 2 },
        { earlier: { forwardW: 100, reflectedW: 0.1 } },
      ),
    ).toBeNull()
  })

  test('an amplifier past its rated output is over its limit', () => {
    const chain = chains['an amplifier and a hand tuner']!
    const [channel] = channelsOf(40)
    const full = {
      state: { amplifier: 'on', tuner: 'bypass', load: 'dummy', carrier: true, share: 1 },
      place: 'output',
    } as const
    const stepped = chainOfStep(chain, full, channel!)
    const expected = expectStep(chain, full, channel!, { tolerances: usualTolerances, meter })
    const limits = limitsOfStep(stepped, around)
    expect(expected.watts).toBeGreaterThan(480)
    expect(expected.watts).toBeLessThan(501)
    expect(stopFor(step, { forwardW: 495 }, { expected, limits })).toBeNull()
    expect(stopFor(step, { forwardW: 560 }, { expected, limits })).toMatchObject({
      rule: 'part',
      stress: { kind: 'power', part: 1 },
    })
  })

  test('the key may be down half as long again as the step says; rest may be as long as one likes', () => {
    expect(stopForTime({ seconds: 10 }, 14)).toBeNull()
    expect(stopForTime({ seconds: 10 }, 16)).toMatchObject({ rule: 'time' })
    expect(stopForTime({ seconds: 10, rest: true }, 100)).toBeNull()
  })
})

describe('the state of a step', () => {
  const chain = chains['an amplifier and a hand tuner']!
  const [channel] = channelsOf(40)
  test('a dummy load cuts the chain at the output, and drive is a share of the set power', () => {
    const {
      chain: cut,
      at,
      plane,
    } = chainOfStep(
      chain,
      { state: { amplifier: 'on', load: 'dummy', share: 0.25, carrier: true }, place: 'output' },
      channel!,
    )
    expect(cut.stages).toHaveLength(2)
    expect(plane).toBe(2)
    expect(at).toMatchObject({ powerW: 10, mode: 'key-down' })
  })
  test('a bypassed amplifier moves the output to the radio', () => {
    const { plane } = chainOfStep(
      chain,
      { state: { amplifier: 'bypass' }, place: 'output' },
      channel!,
    )
    expect(plane).toBe(0)
  })
  test('the tuner’s own window decides, and is never passed', () => {
    const sheet = runSheets.find(({ id }) => id === 'automatic-tuner')!
    const channels = channelsOf(100)
    const steps = expandSheet(sheet, channels[0]!, channels, { tuneWindowW: [5, 25], tuneTimeS: 6 })
    const tune = steps.find(({ id }) => id === 'tune-1')!
    expect(setPowerOf(tune.state!, channels[0]!)).toBe(19)
    expect(tune.seconds).toBe(6)
    expect(tune.text).toContain('5 to 25 W is its window')
    const unknown = expandSheet(sheet, channels[0]!, channels)
    expect(setPowerOf(unknown.find(({ id }) => id === 'tune-1')!.state!, channels[0]!)).toBe(15)
  })
})
