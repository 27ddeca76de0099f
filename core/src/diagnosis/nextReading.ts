/** Which reading would tell the explanations apart best, for what it costs to take, and for what may be read after it. */
import { SOURCE_BY_BAND } from '../chain/drawStation.ts'
import type { FarEnd } from '../chain/farEnd.ts'
import { type Meter, rangeFor, shownOf } from '../measure/meter.ts'
import { cholesky, whiten } from '../statistics/gaussian.ts'
import type { Cause } from './causes.ts'
import type { Weighed } from './diagnose.ts'
import { type Observable, type Site } from './evidence.ts'
import { covarianceBetween, covarianceOf } from './spread.ts'
import { imagine, leadersOf, outcomesOf, type Predicted, settledBy } from './imagine.ts'
import { expectations, widen } from './expectations.ts'

export interface NextReading {
  point: number
  plane: number
  /** What to connect in the antenna's place for it. */
  farEnd: FarEnd
  /** Index into the instruments; null for another meter than those that were used. */
  instrument: number | null
  /** Share of the channel's power to send: less than 1 where a smaller range of the meter tells more. */
  share: number
  /** Share of the present doubt between the explanations that it is expected to settle, 0 … 1. */
  settles: number
  /** What it costs to take, 1 for one at the desk. */
  cost: number
  /** The reading to take after it, and what both settle together; where that is more, for its cost, than this one alone is worth. */
  then: (Site & { settles: number }) | null
  /** The two explanations that it tells apart most. */
  between: [Cause, Cause]
  /** Forward power that each of the two expects there, as the meter would show it, W. */
  expectsW: [number, number]
}

/** What it costs to read at a plane, in readings at the desk; infinite where it cannot be done today. */
export type ReadingCost = (plane: number) => number

/** How exactly places are ranked, and among what. */
export interface Exactness {
  /** How many outcomes are thought of at every place. */
  rough: number
  /** And how many at so many of the best. */
  fine: number
  ranked: number
  /** How many of the best are thought of in pairs, one read after the other. */
  paired: number
  /** Whether power can be turned down for a reading. */
  lessPower: boolean
}
export const USUAL: Exactness = { rough: 16, fine: 48, ranked: 16, paired: 8, lessPower: true }

/** What it costs to turn the power down for a reading, and up again. */
const TURN_DOWN = 0.25
/** How full a range is where power is set for it; lower than this the radio does not go. */
const FULL = 0.9
const LEAST_SHARE = 0.03

/** A reading that is thought of. */
interface Thought {
  site: Site
  share: number
  price: number
  figures: readonly Observable[]
}

/**
 * Thinks of a reading at every plane on every channel (a channel with a load in the antenna's place is one of its own, whose
 * readings take the way to the antenna as well), with an instrument that was used and with another one, at the channel's
 * power and at one that fills a smaller range of the meter: what it may show under each explanation in each of its sizes, given
 * what was read already, and how much doubt between the explanations is left then. Best first, by what is settled for its
 * cost, alone or with the best one after it.
 *
 * @param another the meter to think of as the other one
 * @param planes where a meter can be put
 */
export function nextReadings(
  weighed: Weighed,
  another: Meter,
  planes: readonly number[],
  cost: ReadingCost = () => 1,
  { rough, fine, ranked: most, paired, lessPower }: Exactness = USUAL,
): NextReading[] {
  const { kase, waves, sizes } = weighed
  const leaders = leadersOf(sizes)
  if (new Set(leaders.map(({ group }) => group)).size < 2) return []
  const [roughly, finely] = [outcomesOf(rough), outcomesOf(fine)]
  const instruments = [...kase.instruments, another]
  const used = mostUsed(kase.readings.map(({ instrument }) => instrument))
  // Power that is set anew is off in its own way.
  const setAnewDb = (10 / Math.LN10) * ((kase.tolerances.source * SOURCE_BY_BAND) / 2)
  const thoughts = [used, instruments.length - 1].flatMap((instrument) =>
    [...kase.channels.keys()].flatMap((point) =>
      planes.flatMap((plane): Thought[] => {
        const { farEnd = 'antenna' } = kase.channels[point]!
        const price = cost(plane) + (farEnd === 'antenna' ? 0 : cost(kase.chain.stages.length))
        if (!Number.isFinite(price)) return []
        const site = { point, plane, instrument }
        const wave = waves[point]!.nominal
        const shares = lessPower
          ? sharesOf({ ...kase, instruments }, site, wave.forwardW[plane]!)
          : [1]
        return shares
          .map((share) => ({
            ...{ site, share, price: price + (share < 1 ? TURN_DOWN : 0) },
            figures: imagine({ ...kase, instruments }, site, wave, share).map((figure) =>
              share < 1 && figure.what === 'forward'
                ? { ...figure, ownVariance: figure.ownVariance + setAnewDb ** 2 }
                : figure,
            ),
          }))
          .filter(({ figures }) => figures.length > 0)
      }),
    ),
  )
  const predict = predictor({ ...weighed, kase: { ...kase, instruments } }, leaders)
  const valued = thoughts.map((thought) => {
    const predicted = predict(thought.figures)
    return { ...thought, predicted, settles: settledBy(predicted, roughly) }
  })
  const byWorth = (a: { settles: number; price: number }, b: { settles: number; price: number }) =>
    b.settles / b.price - a.settles / a.price
  valued.sort(byWorth)
  const ranked = valued
    .slice(0, most)
    .map((own) => ({ ...own, settles: settledBy(own.predicted, finely) }))
    .sort(byWorth)
  const heads = ranked.slice(0, paired)
  const after = new Map<Thought, { thought: Thought; settles: number; worth: number }>()
  heads.forEach((first, i) => {
    for (const second of heads.slice(0, i)) {
      const settles = settledBy(predict([...first.figures, ...second.figures]), finely)
      const worth = settles / (first.price + second.price)
      for (const [own, other] of [
        [first, second],
        [second, first],
      ] as const)
        if (worth > (after.get(own)?.worth ?? own.settles / own.price))
          after.set(own, { thought: other, settles, worth })
    }
  })
  const worthOf = (own: Thought & { settles: number }) =>
    after.get(own)?.worth ?? own.settles / own.price
  return [...ranked.sort((a, b) => worthOf(b) - worthOf(a)), ...valued.slice(most)].map((own) => {
    const { site, share, price, predicted, settles } = own
    const [a, b] = toldApart(predicted)
    const watts = (p: number) => share * 10 ** (predicted[p]!.mean[0]! / 10)
    const then = after.get(own)
    return {
      ...site,
      farEnd: kase.channels[site.point]!.farEnd ?? 'antenna',
      instrument: site.instrument === used ? used : null,
      ...{ share, settles, cost: price },
      then: then ? { ...then.thought.site, settles: then.settles } : null,
      between: [leaders[a]!.cause, leaders[b]!.cause],
      expectsW: [watts(a), watts(b)],
    }
  })
}

/** Shares of the power at which a meter is thought of at a place: all of it, and what fills the next smaller range. */
function sharesOf({ chain, instruments, channels }: Weighed['kase'], at: Site, waveW: number) {
  const meter = instruments[at.instrument]!
  const shownW = shownOf(meter, waveW, channels[at.point]!.emission)
  const inUse = rangeFor(meter, shownW)
  // What an amplifier does at less drive is another question.
  if (inUse === null || chain.stages.some(({ kind }) => kind === 'amplifier')) return [1]
  const smaller = meter.rangesW.filter((full) => full < inUse && full < shownW)
  const share = (FULL * Math.max(0, ...smaller)) / shownW
  return share < LEAST_SHARE ? [1] : [1, share]
}

/** What figures that are thought of show under each leader, given all that was read. */
export function predictor(
  { kase, spread, waves, observables }: Weighed,
  leaders: ReturnType<typeof leadersOf>,
): (figures: readonly Observable[]) => Predicted[] {
  const n = observables.length
  const plain = covarianceOf(observables, spread)
  /** The triangle of the covariance of what was read, under leaders that widen it alike: most share one. */
  const triangles = new Map<string, Float64Array>()
  const under = leaders.map(({ cause }) => {
    const mean = expectations(kase, waves, observables, cause)
    const key = wideningOf(cause)
    const l = triangles.get(key) ?? cholesky(widen(plain, observables, mean, cause), n)
    triangles.set(key, l)
    return {
      key,
      off: whiten(
        l,
        observables.map(({ value }, i) => value - mean[i]!),
      ),
    }
  })
  const crosses = new Map<string, WeakMap<Observable, Float64Array>>()
  const means = new WeakMap<Observable, Float64Array>()
  const crossOf = (key: string, figure: Observable): Float64Array => {
    const known = crosses.get(key) ?? new WeakMap<Observable, Float64Array>()
    crosses.set(key, known)
    const cross =
      known.get(figure) ??
      whiten(
        triangles.get(key)!,
        observables.map((own) => covarianceBetween(own, figure, spread)),
      )
    known.set(figure, cross)
    return cross
  }
  /** Of each leader, given what was read. */
  const meansOf = (figure: Observable): Float64Array => {
    const known = means.get(figure)
    if (known) return known
    const now = Float64Array.from(leaders, ({ cause }, p) => {
      const { key, off } = under[p]!
      const [raw] = expectations(kase, waves, [figure], cause)
      return raw! + dot(crossOf(key, figure), off)
    })
    means.set(figure, now)
    return now
  }
  return (figures) => {
    const m = figures.length
    const own = covarianceOf(figures, spread)
    const found = new Map<string, Float64Array>()
    const triangleOf = (key: string, cause: Cause): Float64Array => {
      const known = found.get(key)
      if (known) return known
      const c = own.slice()
      for (let i = 0; i < m; i++)
        for (let j = 0; j < m; j++)
          c[i * m + j]! -= dot(crossOf(key, figures[i]!), crossOf(key, figures[j]!))
      figures.forEach((figure, i) => {
        c[i * m + i] = Math.max(c[i * m + i]!, figure.ownVariance)
        if (cause.kind === 'common mode' && figure.what === 'rho') c[i * m + i]! += cause.rho ** 2
      })
      const l = cholesky(c, m)
      found.set(key, l)
      return l
    }
    const expected = figures.map(meansOf)
    return leaders.map(({ cause, weight, group }, p) => ({
      group,
      weight,
      mean: expected.map((all) => all[p]!),
      triangle: triangleOf(under[p]!.key, cause),
    }))
  }
}

const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!
  return sum
}

/** Causes that widen the errors of readings alike share a covariance. */
const wideningOf = (cause: Cause): string =>
  cause.kind === 'slip'
    ? `slip ${cause.reading}`
    : cause.kind === 'common mode'
      ? `common ${cause.rho}`
      : cause.kind === 'other'
        ? 'other'
        : ''

/** The two of different groups, each in its likeliest size, that the reading tells apart most; by index. */
function toldApart(predicted: readonly Predicted[]): [number, number] {
  const best = new Map<string, number>()
  predicted.forEach(({ group, weight }, p) => {
    if (weight > (predicted[best.get(group) ?? -1]?.weight ?? -1)) best.set(group, p)
  })
  const heads = [...best.values()]
    .sort((a, b) => predicted[b]!.weight - predicted[a]!.weight)
    .slice(0, 8)
  let pair: [number, number] = [heads[0]!, heads[1]!]
  let most = -1
  heads.forEach((a, i) => {
    for (const b of heads.slice(i + 1)) {
      const [x, y] = [predicted[a]!, predicted[b]!]
      const apart = x.weight * y.weight * (1 - overlapOf(x, y))
      if (apart > most) {
        most = apart
        pair = [a, b]
      }
    }
  })
  return pair
}

function mostUsed(instruments: readonly number[]): number {
  const counts = new Map<number, number>()
  for (const i of instruments) counts.set(i, (counts.get(i) ?? 0) + 1)
  return [...counts].reduce((a, b) => (b[1] > a[1] ? b : a))[0]
}

/** Bhattacharyya coefficient of two normal predictions, figure by figure. */
function overlapOf(a: Predicted, b: Predicted): number {
  let distance = 0
  const n = a.mean.length
  a.mean.forEach((mean, i) => {
    const va = varianceOf(a, i, n)
    const vb = varianceOf(b, i, n)
    distance +=
      (mean - b.mean[i]!) ** 2 / (4 * (va + vb)) +
      0.5 * Math.log((va + vb) / (2 * Math.sqrt(va * vb)))
  })
  return Math.exp(-distance)
}

/** Variance of one of the figures. */
function varianceOf({ triangle }: Predicted, i: number, n: number): number {
  const row = triangle.subarray(i * n, i * n + i + 1)
  return dot(row, row)
}
