import type { ChainDocument, ReadingBody } from '@saltline/contract'
import {
  answerChain,
  type Chain,
  drawChain,
  expectReading,
  InputError,
  type Meter,
  planeRanges,
  type PredictedPlane,
  swrRead,
  usualTolerances,
} from '@saltline/core'
import type { readings } from '../db/schema.ts'

/** Draws for what a reading should be: enough for 5 and 95 %. */
const DRAWS = 240

/** What is kept of the expectation with a reading. */
export type Expected = Pick<
  typeof readings.$inferInsert,
  'expectedW' | 'lowW' | 'highW' | 'expectedSwr' | 'lowSwr' | 'highSwr' | 'inside'
>

/** What readings should show: the chain is solved and drawn once for every operating point. */
export function expectations(chain: Chain, { tolerances = usualTolerances }: ChainDocument) {
  const known = new Map<string, PredictedPlane[] | null>()
  const planesAt = ({ frequencyHz, powerW, mode }: ReadingBody): PredictedPlane[] | null => {
    const key = `${frequencyHz} ${powerW} ${mode}`
    const found = known.get(key)
    if (found !== undefined) return found
    const planes = predicted(chain, { frequencyHz, powerW, mode }, tolerances)
    known.set(key, planes)
    return planes
  }
  return (body: ReadingBody, plane: number, meter: Meter): Expected => {
    const at = planesAt(body)?.[plane]
    if (!at)
      return {
        expectedW: null,
        lowW: null,
        highW: null,
        expectedSwr: null,
        lowSwr: null,
        highSwr: null,
        inside: true,
      }
    const e = expectReading(at, meter, body, body.rangeW)
    const seen = swrRead(body)
    const within = (
      value: number | null | undefined,
      { low, high }: { low: number; high: number },
    ) => value == null || (value >= low && value <= high)
    return {
      expectedW: e.watts,
      lowW: e.wattsRange.low,
      highW: e.wattsRange.high,
      expectedSwr: finite(e.swr),
      lowSwr: finite(e.swrRange.low),
      highSwr: finite(e.swrRange.high),
      inside: within(body.forwardW, e.wattsRange) && within(seen, e.swrRange),
    }
  }
}

/** SQLite and JSON have no infinity: an open line's SWR is none. */
const finite = (value: number): number | null => (Number.isFinite(value) ? value : null)

/** The planes of an operating point; null where the chain has no answer there. */
function predicted(
  chain: Chain,
  at: { frequencyHz: number; powerW: number; mode: ReadingBody['mode'] },
  tolerances: NonNullable<ChainDocument['tolerances']>,
): PredictedPlane[] | null {
  try {
    const { solution } = answerChain(chain, at)
    const [draws] = drawChain(chain, [at], tolerances, { draws: DRAWS, seed: 1 })
    const ranges = planeRanges(draws!)
    return solution.planes.map(({ forwardW, swr }, k) => ({ forwardW, swr, ranges: ranges[k]! }))
  } catch (error) {
    if (error instanceof InputError) return null
    throw error
  }
}
