/** What is done off the page: each task by its name, held against the core asked directly. */
import {
  answerChain,
  cableClasses,
  type Case,
  diagnose,
  faultsOf,
  frequencyGrid,
  middleW,
  mostPower,
  type RatedChain,
  solveChain,
  sweepBand,
  usualMeter,
  usualTolerances,
  worthOfTuner,
} from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { type RequestOf, type ResultOf, type TaskName, tasks } from '../src/compute/tasks.ts'
import { chainOfDocument, operatingPoint } from '../src/model/answers.ts'
import { inMode, isPart, mostModes, surroundingsOf } from '../src/model/headroomWords.ts'
import { tunerKinds } from '../src/model/stages/tuner.ts'
import { newStage } from '../src/model/edits.ts'
import { document as plain } from './fixtures.ts'

/** Its cables by their class, so that their limits are known. */
const line = newStage('line', plain)
const document = {
  ...plain,
  stages: plain.stages.map((stage) =>
    stage.kind === 'line' && line.kind === 'line' ? { ...stage, cable: line.cable } : stage,
  ),
}
const chain = chainOfDocument(document, undefined) as RatedChain
const [channel] = document.channels
const at = operatingPoint(document.transmitter, channel!)
const points = document.channels.map((each) => operatingPoint(document.transmitter, each))

/** A chain without a figure: an antenna of which nothing is known on these channels. */
const unknown = {
  ...chain,
  load: { kind: 'bands', bands: [{ readings: [{ frequencyHz: 1e8, swr: 2 }] }] },
} as RatedChain

/** Does a task, and keeps how far it said it was. */
async function done<N extends TaskName>(name: N, request: RequestOf<N>) {
  const told: number[] = []
  const soFar: ResultOf<N>[] = []
  const task = (await tasks[name]()) as (
    request: RequestOf<N>,
    progress: (done: number, partial?: ResultOf<N>) => void,
  ) => ResultOf<N> | Promise<ResultOf<N>>
  const result = await task(request, (share, partial) => {
    told.push(share)
    if (partial !== undefined) soFar.push(partial)
  })
  return { result, told, soFar }
}

describe('each task', () => {
  test('band: the chain over its frequencies', async () => {
    const request = { chain, lowHz: 4e6, highHz: 4.3e6, points: 11, powerW: 100, tunedHz: 4.1e6 }
    const { result } = await done('band', request)
    expect(result).toEqual(sweepBand(chain, frequencyGrid(4e6, 4.3e6, 11), 100, 4.1e6))
  })

  test('diagnosis: what it rests on is made once for all readings of a session, and for each chain its own', async () => {
    const kase = (more: Partial<Case> = {}): Case => ({
      ...{ chain, instruments: [usualMeter], tolerances: usualTolerances },
      channels: [{ ...at, emission: { mode: 'data' } }],
      readings: [
        { point: 0, plane: 0, instrument: 0, forwardW: 40 },
        { point: 0, plane: chain.stages.length, instrument: 0, forwardW: 12 },
      ],
      ...more,
    })
    const costs = chain.stages.map(() => 1)
    const ask = async (own: Case) => done('diagnosis', { kase: own, another: usualMeter, costs })
    const first = await ask(kase())
    expect(first.told[0]).toBeLessThan(0.6)
    expect(first.result.diagnosis).toEqual(diagnose(kase()))
    // The ranking is told before what to read next is known.
    expect(first.result.next.length).toBeGreaterThan(0)
    expect(first.soFar).toEqual([
      { diagnosis: first.result.diagnosis, next: [], swap: null, two: null, reasons: [] },
    ])
    const one = kase({ readings: [...kase().readings, { ...kase().readings[0]!, plane: 1 }] })
    const second = await ask(one)
    expect(Math.min(...second.told)).toBeGreaterThanOrEqual(0.6)
    expect(second.result.diagnosis).toEqual(diagnose(one))
    for (const other of [
      kase({ chain: { ...chain, stages: chain.stages.toReversed() } }),
      kase({ tolerances: { ...usualTolerances, source: 0.3 } }),
      kase({ channels: [{ ...at, powerW: at.powerW / 2, emission: { mode: 'data' } }] }),
    ]) {
      const { result, told } = await ask(other)
      expect(told[0]).toBeLessThan(0.6)
      expect(result.diagnosis).toEqual(diagnose(other))
    }
  })

  test('board: the part that is nearest to its limit, of all channels', async () => {
    const { result } = await done('board', { chains: [{ id: 'own', document, chain }] })
    const nearest = (result as Record<string, { stress: { headroomDb: number } } | null>)['own']
    expect(nearest!.stress.headroomDb).toBeLessThan(20)
  })

  test('most: in every mode; nothing on a channel without a figure', async () => {
    const { result } = await done('most', { document, chain })
    for (const each of document.channels)
      for (const mode of mostModes) {
        const own = inMode(each, mode)
        const most = mostPower(
          chain,
          operatingPoint(document.transmitter, own),
          surroundingsOf(document, own),
          isPart,
        )
        expect((result as Record<string, Record<string, unknown>>)[each.id]![mode]).toEqual(most)
      }
    const none = await done('most', { document, chain: unknown })
    expect(none.result).toEqual({ c1: null, c2: null })
  })

  test('faults: of the channel that was asked about, with its name; none without a figure', async () => {
    for (const channel of document.channels) {
      const { result } = await done('faults', { document, chain, channel, swrLimit: 3 })
      const own = operatingPoint(document.transmitter, channel)
      expect(result).toEqual({
        channelId: channel.id,
        faults: faultsOf(chain, own, surroundingsOf(document, channel), 3),
      })
    }
    const [channel] = document.channels
    const none = await done('faults', {
      ...{ document, chain: unknown, channel: channel!, swrLimit: 3 },
    })
    expect(none.result).toEqual({ channelId: channel!.id, faults: null })
  })

  test('cables for a run: each in the place of the one there is', async () => {
    const cables = cableClasses.slice(0, 3).map((cable) => ({ id: cable.id, cable }))
    const { result, told } = await done('cablesForRun', { chain, at, stage: 0, cables })
    const { id, cable } = cables[1]!
    const stages = chain.stages.with(0, { ...chain.stages[0]!, cable } as (typeof chain.stages)[0])
    const watts = middleW(answerChain({ ...chain, stages }, at))
    expect((result as Record<string, number>)[id]).toBeCloseTo(watts, 9)
    expect(told).toHaveLength(3)
  })

  test('compare: differences against the chain as it stands', async () => {
    const shorter = { ...document, stages: document.stages.slice(0, 2) }
    const other = chainOfDocument(shorter, undefined)!
    const candidates = [
      { document, chain },
      { document: shorter, chain: other },
    ]
    const request = { candidates, channelId: 'c1', tolerances: null }
    const { result } = await done('compare', request)
    const { rows } = result as { rows: Record<string, { antennaW: number; db: number }>[] }
    expect(rows[0]!['c1']!.db).toBe(0)
    const [now, then] = [solveChain(chain, at).antennaW, solveChain(other, at).antennaW]
    expect(rows[1]!['c1']!.db).toBeCloseTo(10 * Math.log10(then / now), 9)
  })

  test('curves: a gap where a chain has no figure', async () => {
    const chains = [
      { chain, at },
      { chain: unknown, at },
    ]
    const request = { chains, lowHz: 4e6, highHz: 4.3e6, points: 5 }
    const { result } = await done('compareCurves', request)
    const { antennaW } = result as { antennaW: (Float64Array | null)[] }
    expect(antennaW[0]).toHaveLength(5)
    expect([...antennaW[1]!].every(Number.isNaN)).toBe(true)
  })

  test('a tuner in each place, on every channel', async () => {
    const tuner = tunerKinds.hand
    const channels = [{ id: 'c1', at }]
    const { result } = await done('tunerPlaces', { chain, tuner, channels })
    expect(result).toEqual({ c1: worthOfTuner(chain, tuner, at) })
    const none = await done('tunerPlaces', { chain: unknown, tuner, channels })
    expect(none.result).toEqual({ c1: null })
  })

  test('ranges, limits and worth: a result a channel, and progress to the end', async () => {
    const tolerances = usualTolerances
    const ranges = await done('ranges', { chain, at: points, tolerances })
    expect(ranges.result).toHaveLength(2)
    const uses = [{ mode: channel!.mode, around: surroundingsOf(document, channel!) }]
    const limits = await done('limits', { chain, channels: [{ at, uses }], tolerances })
    expect((limits.result as unknown[][])[0]).toHaveLength(1)
    const worth = await done('worth', { chain, tuner: tunerKinds.hand, at: [at], tolerances })
    expect((worth.result as unknown[][])[0]).toHaveLength(3)
    for (const { told } of [ranges, limits, worth]) {
      expect(told.length).toBeGreaterThan(1)
      expect(told).toEqual(told.toSorted((a, b) => a - b))
      expect(told.at(-1)).toBeCloseTo(1, 9)
    }
    const none = await done('limits', { chain: unknown, channels: [{ at, uses }], tolerances })
    expect(none.result).toEqual([null])
  })

  test('step figures: what a step that is read should show, nothing for one that is not', async () => {
    const steps = [{ id: 'look', kind: 'check', title: 'Look' }] as never
    const { result } = await done('stepFigures', {
      station: { chain, channels: document.channels } as never,
      steps,
      tolerances: usualTolerances,
      meter: usualMeter,
    })
    expect(result).toEqual({ look: { expected: null, limits: [], against: [] } })
  })
})
