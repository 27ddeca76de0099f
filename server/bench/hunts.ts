/**
 * What it takes to find a hidden cause, reading by reading: by the advice, at random, walking along the chain, and by whoever knows
 * it (`CLAIRVOYANT=1`, which takes its time).
 */
import {
  type Case,
  type Cause,
  hiddenStation,
  type MeterReading,
  nextReadings,
  pick,
  type Prepared,
  prepare,
  type Random,
  seeded,
  type Site,
  usualTolerances,
  weigh,
  type Weighed,
} from '@saltline/core'
import { drawKind, type HiddenKind, trialAbroad } from '../../core/bench/abroad.ts'
import { all, drawCause, instruments, kinds, names } from './home.ts'
import { percent } from './percent.ts'

/** What a chain is expected to be is the same for all tries of it. */
const known = new Map<string, Prepared>()

/** Goes on reading a station until the right cause stands at 90 %, and counts; nine where eight readings do not. */
interface Hunt {
  kase: Omit<Case, 'readings'>
  key: string
  names: (found: Cause) => boolean
  planes: number[]
  /** The meter in use, and another one. */
  instruments: [number, number]
  read: (site: Site, share: number) => MeterReading
}
/** Where to read next, and at which share of the channel's power where that is less than all. */
type Advice = Site & { share?: number }
type Strategy = (
  hunt: Hunt & { before: Prepared },
  readings: MeterReading[],
  weighed: Weighed,
  random: Random,
) => Advice

const strategies: Record<string, Strategy> = {
  advice: ({ kase, planes, instruments: [main, other] }, _, weighed) => {
    const [best] = nextReadings(weighed, kase.instruments[other]!, planes)
    return best
      ? { ...best, instrument: best.instrument ?? other }
      : { point: 0, plane: planes[0]!, instrument: main }
  },
  random: ({ kase, planes, instruments }, _, _weighed, random) => ({
    point: Math.floor(random() * kase.channels.length),
    plane: pick(random, planes),
    instrument: pick(random, instruments),
  }),
  walking: ({ planes, instruments: [main] }, readings) => ({
    point: 0,
    plane: planes[readings.length % planes.length]!,
    instrument: main,
  }),
}

/** So many places are tried by whoever knows. */
const TRIED = 24

/**
 * Knows the cause, tries places, and reads where the right cause then stands highest: no advice, which does not know it, is better
 * by much.
 */
if (process.env['CLAIRVOYANT'])
  strategies['clairvoyant'] = ({ kase, planes, instruments, names, read, before }, readings) => {
    const random = seeded(99 + readings.length)
    const sites = Array.from({ length: TRIED }, () => ({
      point: Math.floor(random() * kase.channels.length),
      plane: pick(random, planes),
      instrument: pick(random, instruments),
    }))
    const rightAt = (site: Site) =>
      weigh(
        { ...kase, readings: [...readings, read(site, 1)] },
        undefined,
        before,
      ).diagnosis.explanations.reduce(
        (sum, { cause, probability }) => sum + (names(cause) ? probability : 0),
        0,
      )
    return sites
      .map((site) => ({ site, right: rightAt(site) }))
      .reduce((a, b) => (b.right > a.right ? b : a)).site
  }

function hunt(make: (i: number) => Hunt, strategy: Strategy, i: number): number {
  const own = make(i)
  const random = seeded(4242 + i)
  const readings: MeterReading[] = []
  let site: Advice = { point: 0, plane: own.planes[0]!, instrument: own.instruments[0] }
  let { kase } = own
  let before = known.get(own.key) ?? prepare(kase)
  known.set(own.key, before)
  // What is read at less power is a channel of its own.
  const origins = kase.channels.map((_, point) => ({ point, share: 1 }))
  for (let taken = 1; taken <= 8; taken++) {
    const { share = 1, ...at } = site
    const origin = origins[at.point]!
    const read = own.read({ ...at, point: origin.point }, origin.share * share)
    if (share < 1) {
      const channel = kase.channels[at.point]!
      origins.push({ point: origin.point, share: origin.share * share })
      kase = {
        ...kase,
        channels: [...kase.channels, { ...channel, powerW: channel.powerW * share }],
      }
      before = prepare(kase)
    }
    readings.push({ ...read, point: share < 1 ? kase.channels.length - 1 : at.point })
    const weighed = weigh({ ...kase, readings }, undefined, before)
    const right = weighed.diagnosis.explanations.reduce(
      (sum, { cause, probability }) => sum + (own.names(cause) ? probability : 0),
      0,
    )
    if (right >= 0.9) return taken
    site = strategy({ ...own, kase, before }, readings, weighed, random)
  }
  return 9
}

function compareStrategies(title: string, tries: number, make: (i: number) => Hunt): void {
  const counts = Object.fromEntries(
    Object.entries(strategies).map(([name, strategy]) => [
      name,
      Array.from({ length: tries }, (_, i) => hunt(make, strategy, i)),
    ]),
  )
  const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length
  console.log(`\n${title}: readings until the right cause stands at 90 %, of ${tries}`)
  console.table(
    Object.fromEntries(
      Object.entries(counts).map(([name, values]) => [
        name,
        {
          mean: mean(values).toFixed(2),
          'of random': (mean(values) / mean(counts['random']!)).toFixed(2),
          found: percent(values.filter((count) => count < 9).length, tries),
          'advice is as good or better': percent(
            values.filter((count, i) => counts['advice']![i]! <= count).length,
            tries,
          ),
        },
      ]),
    ),
  )
}

const faulty = kinds.filter((kind) => kind !== 'none' && kind !== 'slip')

/**
 * Hunts at home and abroad, by each strategy.
 *
 * @param tries stations of each
 */
export function compareHunts(tries: number, seed: number): void {
  compareStrategies('At home', tries, (i) => {
    const random = seeded(7000 + seed + i)
    const station = pick(random, all)
    const kase = {
      chain: station.chain,
      channels: station.channels,
      instruments,
      tolerances: usualTolerances,
    }
    const planes = [...station.chain.stages, null].map((_, plane) => plane)
    const kind = pick(
      random,
      faulty.filter((each) => each !== 'averaging'),
    )
    const places = planes.map((plane) => ({ point: 0, plane, instrument: 0 }))
    const cause = drawCause(kind, station, places, random)
    const hidden = hiddenStation(kase, [cause], 9000 + seed + i)
    const chance = seeded(31 + i)
    const shownAt = (site: Site, share: number) => {
      const { rangeW, ...shown } = hidden.show(
        site,
        hidden.wavesAt(site.point, kase.channels[site.point]!.powerW * share)[site.plane]!,
        chance,
      )
      return { ...shown, ...(rangeW !== null && { rangeW }) }
    }
    return {
      kase,
      key: `hunt ${all.indexOf(station)}`,
      names: (found) => names(found, cause),
      planes,
      instruments: [0, 1],
      read: ({ point, plane, instrument }, share) => ({
        ...{ point, plane, instrument },
        ...shownAt({ point, plane, instrument }, share),
      }),
    }
  })
  compareStrategies('Abroad', tries, (i) => {
    const random = seeded(8000 + seed + i)
    let kind: HiddenKind
    do kind = drawKind(random)
    while (kind === 'none' || kind === 'slip' || kind === 'averaging')
    const trial = trialAbroad([kind], 700_001 + 31 * seed + i)
    return {
      kase: { ...trial, tolerances: usualTolerances },
      key: `${trial.station} false`,
      names: trial.names[0]!,
      planes: trial.planes,
      instruments: [trial.readings[0]!.instrument, (trial.readings[0]!.instrument + 1) % 3],
      read: trial.read,
    }
  })
}
