import { InputError } from '../errors.ts'
import { asRead, type Meter, readingDoubtW } from '../measure/meter.ts'
import { type Propagated, propagate } from '../statistics/propagate.ts'
import { median } from '../statistics/quantile.ts'

/** The same signal on two meters. */
export interface MeterPair {
  firstW: number
  secondW: number
}

export interface PairCompared {
  /** Second over first, dB. */
  db: Propagated
  /** True where both can be right. */
  agree: boolean
}

export interface TwoMeters {
  pairs: PairCompared[]
  /** The middle of all pairs, dB. */
  middleDb: number
  /** How far the difference moves from the lowest to the highest power, dB: a scale that is not even. */
  slopeDb: number
  agree: boolean
}

/**
 * Two meters in one line on one signal. Where they differ by more than both may err, one of them is wrong;
 * which, a third has to say.
 *
 * @example twoMeters(meter, meter, [{ firstW: 100, secondW: 90 }]).middleDb // -0.4576
 */
export function twoMeters(first: Meter, second: Meter, pairs: readonly MeterPair[]): TwoMeters {
  const compared = pairs.map(({ firstW, secondW }, i): PairCompared => {
    if (!(firstW > 0))
      throw new InputError('A meter must show more than 0 W.', ['pairs', i, 'firstW'])
    if (!(secondW > 0))
      throw new InputError('A meter must show more than 0 W.', ['pairs', i, 'secondW'])
    const doubts = [readingDoubtW(first, firstW), readingDoubtW(second, secondW)] as const
    const db = propagate(
      {
        'first meter': asRead(first, firstW),
        'second meter': asRead(second, secondW),
      },
      (v) =>
        v['first meter'] > 0 && v['second meter'] > 0
          ? 10 * Math.log10(v['second meter'] / v['first meter'])
          : NaN,
    )
    return { db, agree: Math.abs(firstW - secondW) <= doubts[0] + doubts[1] }
  })
  const byPower = pairs
    .map(({ firstW }, i) => ({ firstW, db: compared[i]!.db.value }))
    .sort((a, b) => a.firstW - b.firstW)
  return {
    pairs: compared,
    middleDb: median(compared.map(({ db }) => db.value)),
    slopeDb: byPower.length > 1 ? byPower.at(-1)!.db - byPower[0]!.db : 0,
    agree: compared.every(({ agree }) => agree),
  }
}
