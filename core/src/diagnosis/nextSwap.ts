/** Which lead to swap for one that is known to be good: the strongest test there is, where a lead may be at fault. */
import type { Stage } from '../stages/stage.ts'
import type { Cause } from './causes.ts'
import { goesWith } from './swapEvidence.ts'
import type { Weighed } from './diagnose.ts'
import { type Site, variancesOf } from './evidence.ts'
import { expectations } from './expectations.ts'
import { imagine, leadersOf, outcomesOf, settledBy } from './imagine.ts'
import type { ReadingCost } from './nextReading.ts'

export interface NextSwap {
  /** The lead, by its stage. */
  stage: number
  /** Where one read already, and reads again with the same meter when it is swapped. */
  site: Site
  /** Share of the present doubt between the explanations that it is expected to settle, 0 … 1. */
  settles: number
  /** What it costs, 1 for a reading at the desk. */
  cost: number
  /** The cause in the lead that is likeliest, and what the meter shows with it and without it, W. */
  cause: Cause
  showsW: [before: number, after: number]
}

/** A longer one nobody has a spare of, m. */
const LEAD_M = 5

const isLead = (stage: Stage): boolean =>
  stage.kind === 'line' && !stage.bypassed && stage.lengthM <= LEAD_M

/** How far two good leads differ: a few joints. */
const LEAD_DB = 0.05
const LEAD_RHO = 0.01

const OUTCOMES = outcomesOf(48)

/** The triangle of figures whose errors do not hang together. */
const diagonal = (deviations: readonly number[]): Float64Array =>
  Float64Array.from({ length: deviations.length ** 2 }, (_, k) =>
    k % (deviations.length + 1) === 0 ? deviations[k / (deviations.length + 1)]! : 0,
  )

/**
 * Thinks of each lead being swapped, and of a reading taken again where there is one: what is wrong with the lead goes with it,
 * and all else stays as it is. What the meter is off by is off in both readings, so that their difference tells more than
 * either.
 *
 * @param cost of being at a plane; that of a swap is that of both ends of the lead, and of the reading
 * @returns best first, by what is settled for its cost; none where nothing in a lead is among the explanations
 */
export function nextSwaps(
  { kase, waves, sizes, observables }: Weighed,
  cost: ReadingCost = () => 1,
): NextSwap[] {
  const tried = (k: number) => kase.swaps?.some(({ stage }) => stage === k) ?? false
  const leads = [...kase.chain.stages.keys()].filter(
    (k) => isLead(kase.chain.stages[k]!) && !tried(k),
  )
  const leaders = leadersOf(sizes)
  const sites = [
    ...new Map(
      kase.readings.map(({ point, plane, instrument }) => [
        `${point} ${plane} ${instrument}`,
        { point, plane, instrument },
      ]),
    ).values(),
  ]
  /** What stands in the log where a reading is written down wrong: read again, it is what a good station shows. */
  const writtenWrong = (cause: Cause, site: Site): number[] | null => {
    if (cause.kind !== 'slip') return null
    const { point, plane, instrument } = kase.readings[cause.reading]!
    return point === site.point && plane === site.plane && instrument === site.instrument
      ? observables.filter(({ reading }) => reading === cause.reading).map(({ value }) => value)
      : null
  }
  return leads
    .flatMap((stage): NextSwap[] => {
      const own = leaders
        .filter(({ cause }) => goesWith(cause, stage))
        .toSorted((a, b) => b.weight - a.weight)[0]
      if (!own) return []
      const ways = sites.map((site): NextSwap => {
        const { point, plane, instrument } = site
        const meter = kase.instruments[instrument]!
        const seen = imagine(kase, site, waves[point]!.nominal)
        const good = expectations(kase, waves, seen, { kind: 'none' })
        const watts = (mean: readonly number[]) => 10 ** (mean[0]! / 10)
        const predicted = leaders.map(({ cause, weight, group }) => {
          const bad = writtenWrong(cause, site) ?? expectations(kase, waves, seen, cause)
          const moves = goesWith(cause, stage) || cause.kind === 'slip'
          const wave = { forwardW: watts(bad), rho: Math.min(1, Math.abs(bad[1] ?? 0)) }
          return {
            group,
            weight,
            mean: good.map((value, f) => (moves ? value - (bad[f] ?? value) : 0)),
            triangle: diagonal(
              seen.map((o) => {
                const [alone] = variancesOf(o, wave, meter, kase.channels[point]!)
                return Math.sqrt(2 * alone + (o.what === 'forward' ? LEAD_DB : LEAD_RHO) ** 2)
              }),
            ),
          }
        })
        return {
          stage,
          site,
          settles: settledBy(predicted, OUTCOMES),
          cost: Math.max(cost(stage), cost(stage + 1)) + cost(plane),
          cause: own.cause,
          showsW: [watts(expectations(kase, waves, seen, own.cause)), watts(good)],
        }
      })
      return ways
        .filter(({ cost: price }) => Number.isFinite(price))
        .toSorted((a, b) => b.settles / b.cost - a.settles / a.cost)
        .slice(0, 1)
    })
    .toSorted((a, b) => b.settles / b.cost - a.settles / a.cost)
}
