/** A station with a hidden cause, read by imperfect meters: for checks, for the demo, for learning. */
import { complex } from '../complex.ts'
import { type Chain, type OperatingPoint, referenceOf } from '../chain/chain.ts'
import { solveChain } from '../chain/solve.ts'
import { even, normal, type Random, seeded } from '../statistics/random.ts'
import {
  boundedReflection,
  type DrawnStation,
  MOST_REFLECTION,
  stationDraws,
} from '../chain/drawStation.ts'
import { reflectionAt } from '../load/load.ts'
import { impedanceOf } from '../load/reflection.ts'
import { rangeFor, readingDoubtW, shownOf, leakOf } from '../measure/meter.ts'
import { type Emission, meanToPeakOf } from '../source/modes.ts'
import type { Cable } from '../line/cable.ts'
import type { Stage } from '../stages/stage.ts'
import { withCable } from '../stages/withCable.ts'
import type { Case, MeterReading, Site } from './evidence.ts'
import { aged, changedReflection, type Cause, insertLoss, standing } from './causes.ts'

/** What is hidden in a station: a cause, or another cable than the one that is written down. */
export type HiddenCause = Cause | { kind: 'swapped'; stage: number; cable: Cable }

/** The wave at a plane as a perfect instrument would read it. */
export interface TrueWave {
  forwardW: number
  rho: number
}

/** What an instrument shows of a wave, W. */
export interface Shown {
  forwardW: number
  reflectedW: number
  /** Full scale that forward power was read on; null for a meter that finds its own. */
  rangeW: number | null
}

/** A station as it really is. */
export interface HiddenStation {
  /**
   * Waves at every plane on one of the channels.
   *
   * @param powerW set power (PEP) where it is not that of the channel
   * @param dummyAt plane from which on a dummy load of 50 Ω stands in for the rest
   */
  wavesAt: (point: number, powerW?: number, dummyAt?: number) => TrueWave[]
  /**
   * Puts a meter into a wave: every call reads anew, with chance of its own.
   *
   * @param rangeW that it is read on; the smallest that holds the power unless given
   */
  show: (site: Omit<Site, 'plane'>, wave: TrueWave, random: Random, rangeW?: number) => Shown
}

/**
 * Draws a station within its tolerances and hides causes in it. The same seed gives the same station with
 * the same instruments.
 */
export function hiddenStation(
  { chain, channels, instruments, tolerances }: Omit<Case, 'readings'>,
  causes: readonly HiddenCause[],
  seed: number,
): HiddenStation {
  const once = seeded(seed)
  const real = stationDraws(chain, channels, tolerances)(once)
  // How far a meter is off on those of its readings that share an error; see SHARED.
  const offs = instruments.map(() => even(once))
  const solved = new Map<string, TrueWave[]>()
  return {
    wavesAt(point, powerW = channels[point]!.powerW, dummyAt = Infinity) {
      const key = `${point} ${powerW} ${dummyAt}`
      const known = solved.get(key)
      if (known) return known
      const waves = realWaves(chain, channels[point]!, real, causes, { point, powerW, dummyAt })
      solved.set(key, waves)
      return waves
    },
    show(site, { forwardW, rho }, random, rangeW) {
      const meter = instruments[site.instrument]!
      const { emission } = channels[site.point]!
      const speech =
        meanToPeakOf(emission) > 0.6 ? 0 : normal(random) * (meter.kind === 'averaging' ? 1 : 0.4)
      const factor = causes.reduce((all, cause) => all * shownFactor(cause, site, emission), 1)
      const shown = shownOf(meter, forwardW, emission) * 10 ** (speech / 10) * factor
      const onRange = (watts: number) => rangeW ?? rangeFor(meter, watts)
      const seen = Math.abs(rho + leakOf(meter) * Math.cos(2 * Math.PI * random()))
      const braid = causes.find((cause) => cause.kind === 'common mode')
      // Anything up to a bound that has this deviation: a braid never reflects all.
      const common = braid ? even(random) * Math.sqrt(3) * braid.rho : 0
      const read = (watts: number) => {
        const doubt = readingDoubtW(meter, watts, onRange(watts))
        const off = random() < SHARED ? offs[site.instrument]! : even(random)
        return Math.max(0, watts + doubt * off)
      }
      const rhoRead = Math.min(MOST_REFLECTION, Math.abs(seen + common))
      return {
        forwardW: read(shown),
        reflectedW: read(shown * rhoRead ** 2),
        rangeW: onRange(shown),
      }
    },
  }
}

/**
 * So often a reading has the error that its meter has on all of them, and else one of its own: two readings are then correlated
 * by one half, and none is off by more than the meter may be.
 */
const SHARED = Math.SQRT1_2

/** What a cause makes of the power that an instrument shows. */
function shownFactor(cause: HiddenCause, { instrument }: Pick<Site, 'instrument'>, on: Emission) {
  if (cause.kind === 'meter' && cause.instrument === instrument) return cause.factor
  if (cause.kind === 'averaging' && cause.instrument === instrument) return meanToPeakOf(on)
  return 1
}

/** What a slip of the pen makes of a figure. */
export const slipFactor = (random: Random): number => 10 ** ((normal(random) * 4) / 10)

/**
 * Reads a station at some sites. The same seed gives the same station and the same readings; another
 * `readingSeed` reads the same station, with the same instruments, once more.
 */
export function simulateReadings(
  kase: Omit<Case, 'readings'>,
  sites: readonly Site[],
  cause: Cause,
  seed: number,
  readingSeed = seed + 0x5bd1,
): MeterReading[] {
  const hidden = hiddenStation(kase, [cause], seed)
  const random = seeded(readingSeed)
  return sites.map((site, i) => {
    const { forwardW, reflectedW, rangeW } = hidden.show(
      site,
      hidden.wavesAt(site.point)[site.plane]!,
      random,
    )
    const slip = cause.kind === 'slip' && cause.reading === i ? slipFactor(random) : 1
    return { ...site, forwardW: forwardW * slip, reflectedW, ...(rangeW !== null && { rangeW }) }
  })
}

function realWaves(
  chain: Chain,
  at: OperatingPoint,
  real: DrawnStation,
  causes: readonly HiddenCause[],
  { point, powerW: setW, dummyAt }: { point: number; powerW: number; dummyAt: number },
): TrueWave[] {
  const reference = referenceOf(chain)
  let stages: Stage[] = real.stages
  let load = real.reflection[point]!
  let powerW = (real.powerW[point]! * setW) / at.powerW
  let knobsStand = false
  const dropped: number[] = []
  for (const cause of causes) {
    if ('point' in cause && cause.point !== null && cause.point !== point) continue
    switch (cause.kind) {
      case 'transmitter':
        powerW *= 10 ** (cause.db / 10)
        break
      case 'aged':
        stages = aged(stages, cause)
        break
      case 'swapped':
        stages = stages.with(cause.stage, withCable(stages[cause.stage]!, cause.cable))
        break
      case 'antenna': {
        const nominal = reflectionAt(chain.load, at.frequencyHz, reference)
        const changed = changedReflection(chain.load, cause.change, at.frequencyHz, reference)
        load = complex(load.re + changed.re - nominal.re, load.im + changed.im - nominal.im)
        knobsStand ||= !cause.retuned
        break
      }
      // Losses come last, below; the others change what meters show, not the station.
      default:
    }
  }
  // Pads come last: they shift the places of the stages behind them.
  for (const cause of causes)
    if (cause.kind === 'loss') {
      const shift = dropped.filter((plane) => plane <= cause.to + 1).length
      stages = insertLoss(stages, cause.to + shift, cause, reference)
      dropped.push(cause.to + shift + 1)
    }
  if (dummyAt < chain.stages.length) {
    stages = stages.slice(0, dummyAt + dropped.filter((plane) => plane <= dummyAt).length)
    load = complex(0)
  }
  const z = impedanceOf(boundedReflection(load), reference)
  const solution = solveChain(
    { ...chain, stages, load: { kind: 'fixed', rOhm: z.re, xOhm: z.im } },
    { ...at, powerW, ...(knobsStand && dummyAt === Infinity && { settings: standing(chain, at) }) },
  )
  return solution.planes
    .filter((_, plane) => !dropped.includes(plane))
    .map(({ forwardW, reflectedW }) => ({ forwardW, rho: Math.sqrt(reflectedW / forwardW) }))
}
