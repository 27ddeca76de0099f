import type { ChainDocument, Reading, ReadingBody } from '@saltline/contract'
import {
  type Chain,
  expectReading,
  InputError,
  type Meter,
  predictions,
  swrRead,
  usualTolerances,
  type Range,
} from '@saltline/core'

/** Draws for what a reading should be: enough for 5 and 95 %. */
const DRAWS = 240

/** What is kept of the expectation with a reading. */
type Expected = Pick<
  Reading,
  'expectedW' | 'lowW' | 'highW' | 'expectedSwr' | 'lowSwr' | 'highSwr' | 'inside'
>

/** What readings should show: the chain is drawn once for every frequency, mode and far end. */
export function expectations(chain: Chain, { tolerances = usualTolerances }: ChainDocument) {
  const known = new Map<string, Predictions | null>()
  const predicted = ({ frequencyHz, mode, farEnd }: ReadingBody): Predictions | null => {
    const key = `${frequencyHz} ${mode} ${farEnd}`
    const found = known.get(key)
    if (found !== undefined) return found
    const made = predictionsOf(chain, { frequencyHz, mode, farEnd }, tolerances)
    known.set(key, made)
    return made
  }
  return (body: ReadingBody, plane: number, meter: Meter): Expected => {
    const at = predicted(body)?.(body.powerW, plane)
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
    const within = (value: number | null | undefined, { low, high }: Range) =>
      value == null || (value >= low && value <= high)
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

type Predictions = ReturnType<typeof predictions>

/** Null where the chain has no answer there. */
function predictionsOf(
  chain: Chain,
  at: Pick<ReadingBody, 'frequencyHz' | 'mode' | 'farEnd'>,
  tolerances: NonNullable<ChainDocument['tolerances']>,
): Predictions | null {
  try {
    const found = predictions(chain, at, tolerances, { draws: DRAWS, seed: 1 })
    // Whatever keeps it from having an answer shows at once.
    found(1, 0)
    return found
  } catch (error) {
    if (error instanceof InputError) return null
    throw error
  }
}
