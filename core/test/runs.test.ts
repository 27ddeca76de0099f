import { describe, expect, test } from 'vitest'
import {
  cableClasses,
  chainOfStep,
  type ExpandedStep,
  expectStep,
  limitsAt,
  missingFor,
  planRun,
  type RatedChain,
  type RunChannel,
  runModel,
  runSheets,
  type RunState,
  setPowerOf,
  solveChain,
  stopFor,
  stopForTime,
  swrLimitOf,
  usualTolerances,
} from '../src/index.ts'
import { atTheBeginning } from '../src/runs/station.ts'

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
const odd = {
  ...cable('pe-5'),
  z0Ohm: 93,
  velocityFactor: 0.66,
  k1DbPer100m: 0,
  k2DbPer100m: 0.0001,
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

/** All sheets on all chains that they fit. */
const walks = Object.entries(chains).flatMap(([name, chain]) => {
  const channels = channelsOf(chain.stages.some(({ kind }) => kind === 'amplifier') ? 40 : 100)
  const tuning = { tuneWindowW: [5, 25] as [number, number], tuneTimeS: 6 }
  const model = runModel({ chain, channels, tuner: tuning })
  return runSheets
    .filter((sheet) => missingFor(chain, sheet).length === 0)
    .map((sheet) => ({
      title: `${sheet.title}, with ${name}`,
      chain,
      channels,
      model,
      steps: planRun(sheet, model, channels[0]!),
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
    for (const { step, expected } of readsOf(walk)) {
      const read = { forwardW: expected.watts, reflectedW: expected.reflectedW }
      const limits = limitsAt(walk.model.momentOf(step, atTheBeginning))
      const judged = stopFor(step, read, { expected, limits, meter })
      // A chain may really be mismatched beyond a sheet's limit: then it is right to stop.
      if (judged?.is === 'stop') {
        expect(judged.reason.rule).toBe('SWR')
        expect(expected.swr).toBeGreaterThan(step.mostSwr!)
      }
    }
  })

  test.each(walks)('$title: far less or more than expected, and twice the SWR, stop it', (walk) => {
    for (const { step, expected } of readsOf(walk)) {
      if (step.figures === 'swr') continue
      const { low, high } = expected.chainRange
      const less = stopFor(step, { forwardW: low * 0.45 }, { expected, meter })
      expect(less).toMatchObject({ is: 'stop', reason: { rule: 'far below' } })
      const more = stopFor(
        step,
        { forwardW: (1.7 * high ** 2) / expected.watts },
        { expected, meter },
      )
      expect(more).toMatchObject({ is: 'stop', reason: { rule: 'far above' } })
      const swr = 2 * swrLimitOf(step, expected)! + 1
      expect(stopFor(step, { swr }, { expected, meter })).toMatchObject({
        is: 'stop',
        reason: { rule: 'SWR' },
      })
    }
  })
})

describe('stop rules', () => {
  const step: Pick<ExpandedStep, 'mostSwr'> = {}
  test('reflected that jumps, and forward that falls by half, against the reading before', () => {
    const earlier = { forwardW: 100, reflectedW: 4 }
    const after = (forwardW: number, reflectedW: number, before = earlier) =>
      stopFor(step, { forwardW, reflectedW }, { earlier: before, meter })?.reason.rule ?? null
    expect(after(100, 6)).toBeNull()
    expect(after(100, 14)).toBe('reflected')
    expect(after(40, 1.6)).toBe('forward fell')
    // Half of it, read with 5 % twice, may still be more than half.
    expect(after(49, 2)).toBeNull()
    // From next to nothing to a little is no jump.
    expect(after(100, 2, { forwardW: 100, reflectedW: 0.1 })).toBeNull()
  })

  /** ± 5 % of 5 W full scale. */
  const needle = { ...meter, rangesW: [5, 50], accuracyOf: 'full scale' as const }
  test('a perfect load at low power may be over a limit, as far as the meter can tell: no reason to unkey', () => {
    // F 5 ± 0.25 W, R 0.05 ± 0.25 W: |ρ| up to √(0.3/4.75) = 0.251, SWR 1.67; from 0 on.
    const judged = stopFor({ mostSwr: 1.3 }, { forwardW: 5, reflectedW: 0.05 }, { meter: needle })
    expect(judged).toMatchObject({ is: 'look', reason: { rule: 'SWR', range: { low: 1 } } })
    expect((judged!.reason as { range: { high: number } }).range.high).toBeCloseTo(1.671, 3)
    // F 5, R 1.25: |ρ| from √(1/5.25) = 0.436 on, SWR 2.55: over 1.3 and 2.5, perhaps over 3.
    const bad = { forwardW: 5, reflectedW: 1.25 }
    const at = (mostSwr: number) => stopFor({ mostSwr }, bad, { meter: needle })?.is ?? null
    expect([1.3, 2.5, 2.6, 3.5, 3.8].map(at)).toEqual(['stop', 'stop', 'look', 'look', null])
  })
  test('a bridge that leaks sees less in a small reflection', () => {
    // 25 dB: 0.056 either way of √(1/100) = 0.1; ± 5 % of reading change it to 0.095 … 0.105.
    const leaky = { ...meter, directivityDb: 25 }
    const judged = stopFor({ mostSwr: 1.05 }, { forwardW: 100, reflectedW: 1 }, { meter: leaky })
    expect(judged).toMatchObject({
      is: 'stop',
      reason: { range: { low: expect.closeTo(1.081, 3) } },
    })
  })
  test('without a limit of its own a reading has that of the chain', () => {
    const expected = {
      watts: 10,
      wattsRange: { low: 9, high: 11 },
      chainRange: { low: 9.5, high: 10.5 },
      reflectedW: 0.1,
      swr: 1.2,
      swrRange: { low: 1.1, high: 1.4 },
      chainSwr: { low: 1.1, high: 1.4 },
      rangeW: null,
    }
    expect(stopFor({}, { forwardW: 10, reflectedW: 9 }, { expected, meter })).toMatchObject({
      is: 'stop',
      reason: { rule: 'SWR', most: expect.closeTo(1.8265, 3) },
    })
    expect(stopFor({}, { forwardW: 10, reflectedW: 0.3 }, { expected, meter })).toBeNull()
  })

  test('an amplifier past its permitted output is over its limit', () => {
    const chain = chains['an amplifier and a hand tuner']!
    const channels = channelsOf(40)
    const state: RunState = {
      amplifier: 'on',
      tuner: 'bypass',
      load: 'dummy',
      carrier: true,
      watts: 40,
    }
    const full = {
      id: 'x',
      kind: 'read',
      title: '',
      channelId: 'c0',
      state,
      place: 'output',
    } as const
    const expected = expectStep(chain, full, channels[0]!, { tolerances: usualTolerances, meter })
    const limits = limitsAt(runModel({ chain, channels }).momentOf(full, atTheBeginning))
    expect(expected.watts).toBeGreaterThan(480)
    expect(expected.watts).toBeLessThan(501)
    expect(stopFor(step, { forwardW: 495 }, { expected, limits, meter })?.is).not.toBe('stop')
    expect(stopFor(step, { forwardW: 640 }, { expected, limits, meter })).toMatchObject({
      is: 'stop',
      reason: { rule: 'part', stress: { part: 1 } },
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
  test('the cable under test is read through, with all that it does', () => {
    const chain = {
      ...chains['no tuner at all']!,
      stages: [line(1, 'pe-5'), meterPart, { ...line(5.97, 'pe-5'), cable: odd }],
    } as RatedChain
    const step = { state: { load: 'cable', carrier: true, watts: 25 }, place: 'output' } as const
    const stepped = chainOfStep(chain, step, channelsOf(100)[0]!)
    expect(stepped.chain.stages.map(({ bypassed = false }) => bypassed)).toEqual([
      true,
      true,
      false,
    ])
    const { planes } = solveChain(stepped.chain, stepped.at)
    // 93 Ω, an odd number of quarter waves long: 93²/50 = 173 Ω, SWR 3.46.
    expect(planes[stepped.plane]!.swr).toBeCloseTo(3.46, 1)
  })

  test('the tuner’s own window decides, and is never passed', () => {
    const sheet = runSheets.find(({ id }) => id === 'automatic-tuner')!
    const channels = channelsOf(100)
    const own = chains['an automatic tuner at the antenna']!
    const steps = planRun(
      sheet,
      runModel({ chain: own, channels, tuner: { tuneWindowW: [5, 25], tuneTimeS: 6 } }),
      channels[0]!,
    )
    const tune = steps.find(({ id }) => id === 'tune-1')!
    // A quarter up in it is 10 W at the tuner, a tenth of the rated power 10 W; the cable takes a little.
    const set = setPowerOf(tune.state!, channels[0]!)
    expect(set).toBeGreaterThanOrEqual(10)
    expect(set).toBeLessThan(11.5)
    expect(tune.seconds).toBe(6)
    expect(tune.text).toContain('5 to 25 W is the tuner’s window')
    const unknown = planRun(sheet, runModel({ chain: own, channels }), channels[0]!)
    expect(setPowerOf(unknown.find(({ id }) => id === 'tune-1')!.state!, channels[0]!)).toBe(10)
  })

  test('an amplifier in circuit does not multiply what a tuner is set with', () => {
    const own = chains['an amplifier and a hand tuner']!
    const automatic = own.stages.map((stage) =>
      stage.kind === 'tuner' ? { ...stage, automatic: true } : stage,
    ) as RatedChain['stages']
    const channels = channelsOf(40)
    const station = {
      chain: { ...own, stages: automatic },
      channels,
      tuner: { tuneWindowW: [5, 20] as [number, number] },
    }
    const steps = planRun(
      runSheets.find(({ id }) => id === 'automatic-tuner')!,
      runModel(station),
      channels[0]!,
    )
    const tuning = steps.filter(({ tunes }) => tunes === 'tuner')
    expect(tuning.length).toBe(4)
    for (const step of tuning) {
      const { chain, at } = chainOfStep(station.chain, step, channels[0]!)
      const k = chain.stages.findIndex(({ kind }) => kind === 'tuner')
      const { netW } = solveChain(chain, at).planes[k]!
      expect(netW).toBeGreaterThan(5)
      expect(netW).toBeLessThan(20)
    }
  })
})

describe('rest', () => {
  test('a part that is over its continuous rating is keyed for as long as it takes, and rests', () => {
    const sheet = {
      steps: [
        { id: 'on', kind: 'check', title: 'load', makes: { load: 'dummy' } },
        ...[0.25, 1, 1].map((share, i) => ({
          id: `k${i}`,
          kind: 'read' as const,
          title: 'key',
          state: { load: 'dummy' as const, carrier: true, share },
          place: 'output' as const,
          figures: 'both' as const,
          seconds: 40,
        })),
      ],
    } as const
    const channels = channelsOf(200)
    // 100 W for ever, 200 W for a minute: τ = 1/ln 2 minutes, 86.6 s.
    const dummy = { continuousW: 100, burst: { watts: 200, minutes: 1 } }
    const steps = planRun(
      sheet,
      runModel({ chain: chains['no tuner at all']!, channels, dummy }),
      channels[0]!,
    )
    // Keyed for 60 s from a tenth of its limit: (1 − 0.1·0.5)/(1 − 0.5) = 1.9 times the continuous rating, and a hair less.
    expect(steps.map(({ id, state }) => [id, state?.watts])).toEqual([
      ['on', undefined],
      ['k0', 47.4],
      ['k1-rest', undefined],
      ['k1', 189],
      ['k2-rest', undefined],
      ['k2', 189],
    ])
    // 189 W end at the limit from (1 − 1.89·0.5)/0.5 = 0.11 of it: 86.6·ln(0.237/0.11) = 66.4 s, from the limit 191.1 s.
    expect(steps.filter(({ rest }) => rest).map(({ seconds }) => seconds)).toEqual([67, 192])
  })
})
