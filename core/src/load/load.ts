import { type Complex, complex } from '../complex.ts'
import { REFERENCE_OHM } from '../constants.ts'
import { InputError, OutOfRangeError } from '../errors.ts'
import { formatFrequency } from '../units/format.ts'
import { reflectionOf, rhoOfSwr } from './reflection.ts'
import { onCircle, type ReflectionCircle } from './circle.ts'
import { type ResistorsLoad, resistorsImpedance } from './resistors.ts'
import { type ResonatorLoad, resonatorImpedance } from './resonator.ts'
import {
  bandAt,
  circleOfBand,
  fitOfBand,
  rangeOfBand,
  type SwrBandsLoad,
  writeBandReflection,
} from './swrBands.ts'

/** The same R + jX (Ω) at every frequency. */
export interface FixedLoad {
  kind: 'fixed'
  rOhm: number
  xOhm: number
}

/** Only an SWR is known; the phase of the reflection is not. */
export interface SwrLoad {
  kind: 'swr'
  swr: number
  /** Where its reflection may lie on the frequency that the SWR was read on; without it, on a circle round the match. */
  circle?: (ReflectionCircle & { frequencyHz: number }) | undefined
}

/** So far from the frequency of a reading, as a share of it, nothing is left of where its circle lies: lines turn it. */
const CIRCLE_SHARE = 0.1

/** How much of an SWR's circle holds at a frequency, 0 … 1. */
const circleShare = ({ circle }: SwrLoad, hz: number): number =>
  circle ? Math.max(0, 1 - Math.abs(hz / circle.frequencyHz - 1) / CIRCLE_SHARE) : 0

/**
 * A measured or computed sweep: complex reflection on the station's reference (50 Ω unless it
 * says otherwise) at rising frequencies.
 */
export interface SweepLoad {
  kind: 'sweep'
  frequencyHz: ArrayLike<number>
  re: ArrayLike<number>
  im: ArrayLike<number>
  /** True where only |ρ| was measured, as with an SWR meter: it stands in `re`, and `im` is 0. */
  phaseUnknown?: boolean | undefined
}

export type Load = FixedLoad | SwrLoad | SweepLoad | ResonatorLoad | ResistorsLoad | SwrBandsLoad

/** What is known of a reflection at one frequency: nothing, only its size, or all of it. */
export type Known = 'nothing' | 'size' | 'all'

interface LoadKind<L extends Load> {
  /** Writes [re, im] into `out`; where only the size is known, it is `out[0]`. */
  write: (load: L, hz: number, referenceOhm: number, out: Float64Array) => Known
  /** What is known at a frequency, or at all of them together where none is named. */
  known: (load: L, referenceOhm: number, hz?: number) => Known
  /** Where the middle of the circle lies on which the reflection may be, if not in the match. */
  centre?: (load: L, hz: number) => Complex
  /** Where it has figures, in words; of a kind that has them everywhere, nothing. */
  covers?: (load: L) => { text: string; lowHz: number; highHz: number }
}

const put = ({ re, im }: Complex, out: Float64Array): Known => {
  out[0] = re
  out[1] = im
  return 'all'
}

/** How each kind of load is known: a new kind is a line here. */
const kinds: { [K in Load['kind']]: LoadKind<Extract<Load, { kind: K }>> } = {
  fixed: {
    write: (load, _hz, r0, out) => put(reflectionOf(complex(load.rOhm, load.xOhm), r0), out),
    known: () => 'all',
  },
  swr: {
    write: (load, hz, _r0, out) => {
      const share = circleShare(load, hz)
      put(complex(share * (load.circle?.radius ?? 0) + (1 - share) * rhoOfSwr(load.swr)), out)
      return 'size'
    },
    known: () => 'size',
    centre: (load, hz) => {
      const share = circleShare(load, hz)
      return complex(share * (load.circle?.re ?? 0), share * (load.circle?.im ?? 0))
    },
  },
  sweep: {
    write: (load, hz, _r0, out) =>
      !interpolateReflection(load, hz, out) ? 'nothing' : load.phaseUnknown ? 'size' : 'all',
    known: (load) => (load.phaseUnknown ? 'size' : 'all'),
    covers: ({ frequencyHz }) => {
      const low = frequencyHz[0] ?? NaN
      const high = frequencyHz[frequencyHz.length - 1] ?? NaN
      return {
        text: `The antenna was measured from ${formatFrequency(low)} to ${formatFrequency(high)}`,
        lowHz: low,
        highHz: high,
      }
    },
  },
  resonator: {
    write: (load, hz, r0, out) => put(reflectionOf(resonatorImpedance(load, hz), r0), out),
    known: () => 'all',
  },
  resistors: {
    write: (load, hz, r0, out) => put(reflectionOf(resistorsImpedance(load, hz), r0), out),
    known: () => 'all',
  },
  bands: {
    write: (load, hz, r0, out) => {
      const band = bandAt(load, hz)
      if (!band) return 'nothing'
      return writeBandReflection(band, hz, r0, out) ? 'all' : 'size'
    },
    centre: (load, hz) => {
      const band = bandAt(load, hz)
      return band ? circleOfBand(band, hz) : complex(0)
    },
    known: (load, r0, hz) => {
      const own = hz === undefined ? load.bands : [bandAt(load, hz)].filter((band) => !!band)
      return own.every((band) => fitOfBand(band, r0)) ? 'all' : 'size'
    },
    covers: ({ bands }) => {
      const ranges = bands.map(rangeOfBand)
      const [low, high] = [ranges[0]?.[0] ?? NaN, ranges.at(-1)?.[1] ?? NaN]
      const text = ranges
        .map(([from, to]) => `${formatFrequency(from)} to ${formatFrequency(to)}`)
        .join(', ')
      return {
        text:
          ranges.length === 0
            ? 'No SWR of this antenna has been entered yet'
            : `The antenna’s SWR is known from ${text}`,
        lowHz: low,
        highHz: high,
      }
    },
  },
}

const kindOf = <L extends Load>(load: L): LoadKind<L> => {
  const kind = kinds[load.kind] as unknown as LoadKind<L> | undefined
  if (!kind) throw new InputError(`There is no kind of load “${load.kind}”.`, ['kind'])
  return kind
}

/**
 * The stretch round a frequency in which a load has figures; null where it has them everywhere, or nowhere.
 * Of readings band by band it is the band that holds the frequency, or else the nearest.
 *
 * @example coverageOf({ kind: 'fixed', rOhm: 50, xOhm: 0 }, 7e6) // null
 */
export function coverageOf(load: Load, hz: number): { lowHz: number; highHz: number } | null {
  if (load.kind === 'bands') {
    const away = ([low, high]: [number, number]) => Math.max(0, low / hz, hz / high)
    const [nearest] = load.bands.map(rangeOfBand).sort((a, b) => away(a) - away(b))
    return nearest ? { lowHz: nearest[0], highHz: nearest[1] } : null
  }
  const { covers } = kindOf(load)
  if (!covers) return null
  const { lowHz, highHz } = covers(load)
  return { lowHz, highHz }
}

/**
 * Whether only the size of a load's reflection is known: at a frequency, or anywhere where none is
 * named.
 *
 * @example phaseUnknown({ kind: 'swr', swr: 2 }) // true
 */
export const phaseUnknown = (load: Load, hz?: number, referenceOhm = REFERENCE_OHM): boolean =>
  kindOf(load).known(load, referenceOhm, hz) === 'size'

/**
 * Reflection of a load at a frequency, written as [re, im] into `out`; NaN where there is no figure.
 *
 * @param phaseRad phase to assume where only the size is known
 */
export function writeReflection(
  load: Load,
  hz: number,
  referenceOhm: number,
  phaseRad: number,
  out: Float64Array,
): void {
  const known = kindOf(load).write(load, hz, referenceOhm, out)
  if (known === 'nothing') return void out.fill(NaN)
  if (known === 'all') return
  const { re, im } = onCircle({ ...centreOf(load, hz), radius: out[0]! }, phaseRad)
  out[0] = re
  out[1] = im
}

const centreOf = (load: Load, hz: number): Complex => kindOf(load).centre?.(load, hz) ?? complex(0)

/**
 * The middle of the circle on which a load's reflection may be at a frequency: the match, unless its SWR was read through
 * lines of another impedance.
 *
 * @returns null where the reflection is known, or nothing is
 */
export const circleCentre = (
  load: Load,
  hz: number,
  referenceOhm = REFERENCE_OHM,
): Complex | null => (phaseUnknown(load, hz, referenceOhm) ? centreOf(load, hz) : null)

/**
 * Index of the interval of `frequencyHz` that holds `hz` (0 … n − 2), or −1 outside the table.
 * Binary search, O(log n).
 */
export function intervalOf(frequencyHz: ArrayLike<number>, hz: number): number {
  const n = frequencyHz.length
  if (n === 0 || hz < frequencyHz[0]! || hz > frequencyHz[n - 1]!) return -1
  let low = 0
  let high = n - 1
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (frequencyHz[middle]! <= hz) low = middle
    else high = middle
  }
  return low
}

/**
 * Reflection of a sweep at a frequency, written as [re, im] into `out`; false outside the table.
 * Between points the complex reflection is interpolated linearly: SWR is not linear and loses the
 * phase, impedance runs away near an open.
 */
export function interpolateReflection(sweep: SweepLoad, hz: number, out: Float64Array): boolean {
  const { frequencyHz, re, im } = sweep
  const i = intervalOf(frequencyHz, hz)
  if (i < 0) return false
  const f0 = frequencyHz[i]!
  const f1 = frequencyHz[i + 1] ?? f0
  const t = f1 > f0 ? (hz - f0) / (f1 - f0) : 0
  out[0] = re[i]! + t * ((re[i + 1] ?? re[i]!) - re[i]!)
  out[1] = im[i]! + t * ((im[i + 1] ?? im[i]!) - im[i]!)
  return true
}

const scratch = new Float64Array(2)

/**
 * Complex reflection of a load at a frequency.
 *
 * @param phaseRad phase to assume where only the SWR is known
 * @throws OutOfRangeError outside a sweep, naming its range; InputError for an active load
 * @example reflectionAt({ kind: 'fixed', rOhm: 100, xOhm: 0 }, 7e6, 50) // { re: 0.3333, im: 0 }
 */
export function reflectionAt(
  load: Load,
  frequencyHz: number,
  referenceOhm: number,
  phaseRad = 0,
): Complex {
  const kind = kindOf(load)
  const known = kind.write(load, frequencyHz, referenceOhm, scratch)
  if (known === 'nothing') {
    const { text, lowHz, highHz } = kind.covers!(load)
    throw new OutOfRangeError(
      `${text}; there is no figure at ${formatFrequency(frequencyHz)}. ` +
        (load.kind === 'bands'
          ? 'Add a reading there, or choose another channel.'
          : 'Choose a channel inside that range or add a wider sweep.'),
      lowHz,
      highHz,
    )
  }
  const [re, im] = [scratch[0]!, scratch[1]!]
  const size = Math.hypot(re, im)
  if (load.kind === 'sweep' && size > 1 + 1e-9) {
    throw new InputError(
      `At ${formatFrequency(frequencyHz)} the sweep says that the antenna sends back more than ` +
        `it gets (|ρ| = ${size.toFixed(4)}). Check the analyser's calibration.`,
    )
  }
  return known === 'all'
    ? complex(re, im)
    : onCircle({ ...centreOf(load, frequencyHz), radius: re }, phaseRad)
}
