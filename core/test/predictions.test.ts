/** Predictions for many powers are those of one power at a time. */
import { describe, expect, test } from 'vitest'
import { answerChain, type Chain, predictions, usualTolerances, type Stage } from '../src/index.ts'
import { drawChain, planeRanges } from '../src/chain/uncertainty.ts'
import { foamLine, handTuner, stationOf } from './stations.ts'

const amplifier: Stage = {
  kind: 'amplifier',
  gainDb: 12,
  driveW: 60,
  fullW: 500,
  behaviour: 'levelled',
  foldback: [
    [2, 1],
    [3, 0.4],
  ],
  inputOhm: { rOhm: 55, xOhm: 4 },
}
const longRun = stationOf([foamLine(12), { kind: 'pad', lossDb: 0.2 }, handTuner, foamLine(30)])
const amplified = stationOf([foamLine(2), amplifier, foamLine(12), handTuner, foamLine(30)])
const anyPhase = stationOf([foamLine(20)], { kind: 'swr', swr: 2.4 })

const draw = { draws: 60, seed: 1 }

describe.each<[string, Chain]>([
  ['without an amplifier', longRun],
  ['with an amplifier', amplified],
  ['whose antenna is known by its SWR', anyPhase],
])('a chain %s', (_, chain) => {
  test.each([5, 37.5, 100, 400])('at %f W', (powerW) => {
    const at = { frequencyHz: 8.294e6, mode: 'voice-plain' as const, powerW }
    const predicted = predictions(chain, at, usualTolerances, draw)
    const ranges = planeRanges(drawChain(chain, [at], usualTolerances, draw)[0]!)
    answerChain(chain, at).solution.planes.forEach(({ forwardW, swr }, k) => {
      const own = predicted(powerW, k)
      expect(own.forwardW / forwardW).toBeCloseTo(1, 9)
      expect(own.swr).toBeCloseTo(swr, 7)
      expect(own.ranges!.forwardW.low / ranges[k]!.forwardW.low).toBeCloseTo(1, 9)
      expect(own.ranges!.forwardW.high / ranges[k]!.forwardW.high).toBeCloseTo(1, 9)
      expect(own.ranges!.swr.high).toBeCloseTo(ranges[k]!.swr.high, 9)
    })
  })
})
