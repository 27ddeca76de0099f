/** A station with a hidden cause, read by imperfect meters: for checks, for the demo, for learning. */
import { complex } from '../complex.ts'
import { type Chain, referenceOf } from '../chain/chain.ts'
import { solveChain } from '../chain/solve.ts'
import { even, normal, type Random, seeded } from '../statistics/random.ts'
import {
  boundedReflection,
  type DrawnStation,
  MOST_REFLECTION,
  mostOf,
  stationDraws,
} from '../chain/drawStation.ts'
import { reflectionAt } from '../load/load.ts'
import { impedanceOf } from '../load/reflection.ts'
import { rangeFor, readingDoubtW, shownOf, leakOf } from '../measure/meter.ts'
import { type Emission, meanToPeakOf } from '../source/modes.ts'
import type { Cable } from '../line/cable.ts'
import type { Stage } from '../stages/stage.ts'
import { withCable } from '../stages/withCable.ts'
import { type Case, type Channel, channelOf, type MeterReading, type Site } from './evidence.ts'
import { expectedSweep } from '../sweep/alongLine.ts'
import type { FarEnd } from '../chain/farEnd.ts'
import {
  aged,
  type AntennaChange,
  type Cause,
  changedReflection,
  insertLoss,
  standing,
} from './causes.ts'

/** What is hidden in a station: a cause, or something that no meter has a name for. */
export type HiddenCause =
  | Cause
  /** Another cable than the one that is written down. */
  | { kind: 'swapped'; stage: number; cable: Cable }
  /** A piece of a cable that is unlike the rest of it: kinked, or wet at one place. */
  | { kind: 'piece'; stage: number; fromM: number; lengthM: number; cable: Cable }
  /** A joint in front of stage `plane` whose pins do not touch: all that passes goes through the capacitance between them, F. */
  | { kind: 'gap'; plane: number; farad: number }

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

/** What a usual analyser adds to what is there: noise as a deviation of each part, and its leak. */
export const usualSeeing = { noise: 0.001, directivityDb: 40 }

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
  /**
   * What an analyser sees at a plane, looking toward the antenna.
   *
   * @param frequencyHz rising
   * @param analyser what it adds: noise as a deviation of each part, and its leak
   * @throws InputError where a tuner or an amplifier lies behind the plane
   */
  sweep: (
    plane: number,
    frequencyHz: Float64Array,
    farEnd: FarEnd,
    analyser: { noise: number; directivityDb: number },
    random: Random,
  ) => { frequencyHz: Float64Array; re: Float64Array; im: Float64Array }
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
      const waves = realWaves(chain, channels, real, causes, { point, powerW, dummyAt })
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
    sweep(plane, frequencyHz, farEnd, { noise, directivityDb }, random) {
      const { stages, planeOf } = withCauses(real.stages, causes, chain)
      const load = loadOver(chain, channels, real, causes, frequencyHz)
      const seen = expectedSweep({ ...chain, stages, load }, planeOf(plane), frequencyHz, farEnd)
      const leak = 10 ** (-directivityDb / 20)
      const angle = 2 * Math.PI * random()
      const read = (part: Float64Array, own: number) =>
        part.map((value) => value + leak * own + noise * normal(random))
      return {
        frequencyHz,
        re: read(seen.re, Math.cos(angle)),
        im: read(seen.im, Math.sin(angle)),
      }
    },
  }
}

/** The antenna over a sweep as it really is: as far off as on its first channel, and changed by what is wrong with it. */
function loadOver(
  chain: Chain,
  channels: readonly Channel[],
  real: DrawnStation,
  causes: readonly HiddenCause[],
  frequencyHz: Float64Array,
): Chain['load'] {
  const reference = referenceOf(chain)
  const first = channels.findIndex(({ farEnd = 'antenna' }) => farEnd === 'antenna')
  const drawn = real.reflection[first] ?? complex(0)
  const nominal =
    first < 0 ? drawn : reflectionAt(chain.load, channels[first]!.frequencyHz, reference)
  const off = complex(drawn.re - nominal.re, drawn.im - nominal.im)
  const channel = channelOf(channels, Math.max(0, first))
  const changes = causes.flatMap((cause) =>
    cause.kind === 'antenna' && (cause.point === null || cause.point === channel)
      ? [cause.change]
      : [],
  )
  const re = new Float64Array(frequencyHz.length)
  const im = new Float64Array(frequencyHz.length)
  frequencyHz.forEach((hz, k) => {
    // Beyond what is known of it nothing of the antenna is asked for: its last figure stands.
    const own = (change?: AntennaChange) =>
      changedReflection(chain.load, change ?? { kind: 'moved', share: 0 }, hz, reference)
    const here = own()
    const rho = boundedReflection(
      changes.reduce(
        (sum, change) => {
          const changed = own(change)
          return complex(sum.re + changed.re - here.re, sum.im + changed.im - here.im)
        },
        complex(here.re + off.re, here.im + off.im),
      ),
      mostOf(here),
    )
    re[k] = rho.re
    im[k] = rho.im
  })
  return { kind: 'sweep', frequencyHz, re, im }
}

/** Stages with what is wrong with them, and where a plane of the chain as it is written down is among them. */
function withCauses(
  drawn: readonly Stage[],
  causes: readonly HiddenCause[],
  chain: Chain,
): { stages: Stage[]; planeOf: (plane: number) => number } {
  let whole = drawn
  for (const cause of causes) {
    if (cause.kind === 'aged') whole = aged(whole, cause)
    if (cause.kind === 'swapped')
      whole = whole.with(cause.stage, withCable(whole[cause.stage]!, cause.cable))
  }
  // What each stage has become: a loss is the last of its own, a gap the first.
  const parts = whole.map((stage) => [stage])
  for (const cause of causes) {
    if (cause.kind === 'piece')
      parts[cause.stage] = parts[cause.stage]!.flatMap((stage) => withPiece(stage, cause))
    if (cause.kind === 'loss')
      parts[cause.to] = insertLoss(
        parts[cause.to]!,
        parts[cause.to]!.length - 1,
        cause,
        referenceOf(chain),
      )
    if (cause.kind === 'gap') parts[cause.plane]!.unshift(capacitor(cause.farad))
  }
  return {
    stages: parts.flat(),
    planeOf: (plane) => parts.slice(0, plane).reduce((sum, own) => sum + own.length, 0),
  }
}

/** A cable with a piece of another one in it; what is no cable stays as it is. */
function withPiece(
  stage: Stage,
  { fromM, lengthM, cable }: { fromM: number; lengthM: number; cable: Cable },
): Stage[] {
  if (stage.kind !== 'line') return [stage]
  const behindM = stage.lengthM - fromM - lengthM
  return [
    { ...stage, lengthM: fromM },
    { ...withCable(stage, cable), lengthM },
    { ...stage, lengthM: behindM },
  ]
}

const capacitor = (farad: number): Stage => ({
  kind: 'series',
  rOhm: 0,
  xOhm: -1 / (2 * Math.PI * CAPACITOR_AT_HZ * farad),
  atHz: CAPACITOR_AT_HZ,
})
/** Its reactance is stated anywhere. */
const CAPACITOR_AT_HZ = 1e8

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
  channels: readonly Channel[],
  real: DrawnStation,
  causes: readonly HiddenCause[],
  { point, powerW: setW, dummyAt }: { point: number; powerW: number; dummyAt: number },
): TrueWave[] {
  const reference = referenceOf(chain)
  const at = channels[point]!
  const onAntenna = (at.farEnd ?? 'antenna') === 'antenna'
  const channel = channelOf(channels, point)
  const faulty = withCauses(real.stages, causes, chain)
  let { stages } = faulty
  let load = real.reflection[point]!
  let powerW = (real.powerW[point]! * setW) / at.powerW
  let knobsStand = false
  for (const cause of causes) {
    if ('point' in cause && cause.point !== null && cause.point !== channel) continue
    switch (cause.kind) {
      case 'transmitter':
        powerW *= 10 ** (cause.db / 10)
        break
      case 'antenna': {
        if (!onAntenna) break
        const nominal = reflectionAt(chain.load, at.frequencyHz, reference)
        const changed = changedReflection(chain.load, cause.change, at.frequencyHz, reference)
        load = complex(load.re + changed.re - nominal.re, load.im + changed.im - nominal.im)
        knobsStand ||= !cause.retuned
        break
      }
      // What is wrong with the stages is in them; the others change what meters show, not the station.
      default:
    }
  }
  if (dummyAt < chain.stages.length) {
    stages = stages.slice(0, faulty.planeOf(dummyAt))
    load = complex(0)
  }
  const z = impedanceOf(boundedReflection(load, mostOf(real.reflection[point]!)), reference)
  const solution = solveChain(
    { ...chain, stages, load: { kind: 'fixed', rOhm: z.re, xOhm: z.im } },
    { ...at, powerW, ...(knobsStand && dummyAt === Infinity && { settings: standing(chain, at) }) },
  )
  return Array.from({ length: Math.min(dummyAt, chain.stages.length) + 1 }, (_, plane) => {
    const { forwardW, reflectedW } = solution.planes[faulty.planeOf(plane)]!
    return { forwardW, rho: Math.sqrt(reflectedW / forwardW) }
  })
}
