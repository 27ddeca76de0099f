import { describe, expect, test } from 'vitest'
import { answerChain, chainUncertainty, usualTolerances } from '@saltline/core'
import { answerChannel, operatingPoint } from '../src/model/answers.ts'
import { withRanges } from '../src/model/withRanges.ts'
import { document } from './fixtures.ts'

const chain = {
  transmitter: document.transmitter,
  stages: document.stages,
  load: { kind: 'fixed' as const, rOhm: 80, xOhm: 10 },
}
const channel = document.channels[0]!
const at = operatingPoint(document.transmitter, channel)
const [ranges] = chainUncertainty(chain, [at], usualTolerances, { draws: 200 })

describe('an answer with its ranges', () => {
  test('holds the figures it had, each inside its range, and still has impedances', () => {
    const answer = withRanges(answerChannel(chain, document.transmitter, channel), ranges)
    if (!answer?.ok) throw new Error('no answer')
    const { solution, spread } = answer
    expect(spread!.phaseUnknown).toBe(false)
    expect(solution).toEqual(answerChain(chain, at).solution)
    expect(solution.antennaW).toBeGreaterThan(spread!.antennaW.low)
    expect(solution.antennaW).toBeLessThan(spread!.antennaW.high)
    solution.planes.forEach(({ netW, forwardW }, k) => {
      expect(netW).toBeGreaterThan(spread!.planes[k]!.netW.low)
      expect(forwardW).toBeLessThan(spread!.planes[k]!.forwardW.high)
    })
    solution.stages.forEach(({ lossW }, k) => {
      const { low, high } = spread!.stages[k]!.lossW
      expect(lossW).toBeGreaterThanOrEqual(low * 0.98)
      expect(lossW).toBeLessThanOrEqual(high * 1.02)
    })
  })

  test('of another chain, or none at all, are not put on', () => {
    const answer = answerChannel(chain, document.transmitter, channel)
    expect(withRanges(answer, undefined)).toBe(answer)
    const shorter = { ...ranges!, planes: ranges!.planes.slice(1) }
    expect(withRanges(answer, shorter)).toBe(answer)
    const none = { ok: false as const, message: 'no' }
    expect(withRanges(none, ranges)).toBe(none)
    expect(withRanges(null, ranges)).toBeNull()
  })

  test('an unknown phase stays unknown', () => {
    const unknown = { ...chain, load: { kind: 'swr' as const, swr: 2 } }
    const [own] = chainUncertainty(unknown, [at], usualTolerances, { draws: 100 })
    const answer = withRanges(answerChannel(unknown, document.transmitter, channel), own)
    expect(answer?.ok && answer.spread!.phaseUnknown).toBe(true)
  })
})
