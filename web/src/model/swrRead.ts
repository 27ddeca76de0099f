/**
 * An SWR that was read elsewhere than at the antenna: at the radio, where most meters are. It is kept as it was typed, with
 * its place, and carried to the feed point; a figure of the way that is corrected later carries it anew.
 */
import {
  type ChainDocument,
  limits,
  type LoadDocument,
  type Place,
  placesOf,
  type ReflectionCircle,
  type SwrRead,
} from '@saltline/contract'
import {
  deembedSize,
  deembedSizeRange,
  feedPointCircle,
  formatDb,
  formatSwr,
  InputError,
  REFERENCE_OHM,
  rhoOfSwr,
  swrOf,
} from '@saltline/core'

type Way = Pick<ChainDocument, 'stages' | 'load'>

/** In the place of a stage: read at the radio, whatever comes first in the chain. */
export const AT_RADIO = 'radio' as const
/** And at the feed point itself. */
export const AT_ANTENNA = 'load' as const

/** Behind these nothing of the antenna is seen: a tuner hides it, and an amplifier does not let it through. */
const hides = ({ kind, bypassed }: ChainDocument['stages'][number]): boolean =>
  !bypassed && (kind === 'tuner' || kind === 'amplifier')

/** Where an SWR of the antenna can have been read, from the radio on; `before` is never the first stage then. */
export function placesOfSwr(way: Way): { value: string; label: string }[] {
  const behind = way.stages.findLastIndex(hides) + 1
  return placesOf(way)
    .filter(({ plane, before }) => plane >= behind || before === 'load')
    .map(({ before, plane, name }: Place) => ({
      value: before === 'load' ? AT_ANTENNA : plane === 0 ? AT_RADIO : before,
      label: before === 'load' ? 'at the antenna' : name,
    }))
}

export type CarriedSwr =
  | {
      possible: true
      /** At the feed point. */
      swr: number
      /** Between these, by the phase that nobody knows; equal where all lines are of 50 Ω. */
      low: number
      high: number
      /** The reflections there that show the SWR where it was read; without it, all of its size. */
      circle?: ReflectionCircle
    }
  | { possible: false; message: string }

/** Carries an SWR from where it was read to the feed point. */
export function carrySwr(way: Way, { swr, before }: SwrRead, frequencyHz: number): CarriedSwr {
  const from = before === undefined ? 0 : way.stages.findIndex(({ id }) => id === before)
  if (from < 0)
    return {
      possible: false,
      message: 'The part that it was read in front of is no longer in the chain. Choose where.',
    }
  const between = way.stages.slice(from)
  const rho = rhoOfSwr(swr)
  try {
    const { reflection, possible } = deembedSize(between, frequencyHz, REFERENCE_OHM, rho)
    const most = limits.swr[1]
    const at = swrOf(reflection.re)
    if (!possible || at > most) {
      // What an open end would show there: all that comes back, less what the way takes twice.
      const openRho = rho / reflection.re
      return {
        possible: false,
        message:
          `An SWR of ${formatSwr(swr)} cannot be read in front of ${formatDb(-10 * Math.log10(openRho))}: ` +
          `even an open end would show ${formatSwr(swrOf(openRho))}. ` +
          'Either the reading is wrong, or the way loses less than given here.',
      }
    }
    const range = deembedSizeRange(between, frequencyHz, REFERENCE_OHM, rho)
    const kept = (value: number) => Math.min(most, Math.max(1, Number(value.toPrecision(6))))
    const circle = feedPointCircle(between, frequencyHz, REFERENCE_OHM, rho)
    return {
      possible: true,
      ...(circle && { circle: keptCircle(circle) }),
      swr: kept(at),
      low: kept(swrOf(Math.min(range.low, reflection.re))),
      high: kept(swrOf(Math.max(range.high, reflection.re))),
    }
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    return { possible: false, message: error.message }
  }
}

/** To nine digits: far closer than any reading, and the same whoever works it out. */
const keptCircle = ({ re, im, radius }: ReflectionCircle): ReflectionCircle => ({
  re: Number(re.toFixed(9)),
  im: Number(im.toFixed(9)),
  radius: Number(radius.toFixed(9)),
})

/** What is kept of an SWR that was read at a place, or why it cannot be. */
export function keptSwr(
  way: Way,
  swr: number,
  place: string,
  frequencyHz: number,
): { swr: number; read?: SwrRead; circle?: ReflectionCircle } | { problem: string } {
  if (place === AT_ANTENNA) return { swr }
  const read: SwrRead = { swr, ...(place !== AT_RADIO && { before: place }) }
  const at = carrySwr(way, read, frequencyHz)
  return at.possible
    ? { swr: at.swr, read, ...(at.circle && { circle: at.circle }) }
    : { problem: at.message }
}

/** The antenna that an SWR speaks of which was read at a place on a frequency. */
export function swrLoad(
  name: string,
  kept: { swr: number; read?: SwrRead; circle?: ReflectionCircle },
  frequencyHz: number,
): LoadDocument {
  const { swr, read, circle } = kept
  return {
    kind: 'swr',
    name,
    swr,
    ...(read && { read: { ...read, frequencyHz } }),
    ...(circle && { circle: { ...circle, frequencyHz } }),
  }
}

/** Where a kept SWR was read. */
export const placeRead = ({ read }: { read?: SwrRead | undefined }): string =>
  read ? (read.before ?? AT_RADIO) : AT_ANTENNA

/** What a reading comes to at the feed point, in words; nothing of one that was read there. */
export function feedPointWords(
  way: Way,
  { read }: { read?: SwrRead | undefined },
  frequencyHz: number,
): string | undefined {
  if (!read) return undefined
  const at = carrySwr(way, read, frequencyHz)
  if (!at.possible) return at.message
  const one = formatSwr(at.swr)
  const [low, high] = [formatSwr(at.low), formatSwr(at.high)]
  return low === high
    ? `SWR ${one} at the feed point.`
    : `SWR ${one} at the feed point; ${low} to ${high} by the phase, which nobody knows.`
}

/** The readings of an antenna's SWR carried anew; as they are where that cannot be. */
export function carriedLoad(way: Way): LoadDocument {
  const { load } = way
  if (load.kind === 'swr') {
    const { read, name } = load
    if (!read) return load
    const { frequencyHz, ...typed } = read
    const at = carrySwr(way, typed, frequencyHz)
    return at.possible ? swrLoad(name, { ...at, read: typed }, frequencyHz) : load
  }
  if (load.kind !== 'bands') return load
  return {
    ...load,
    bands: load.bands.map((band) => ({
      ...band,
      readings: band.readings.map((own) => {
        const at = own.read && carrySwr(way, own.read, own.frequencyHz)
        if (!at?.possible) return own
        const { circle: _, ...rest } = own
        return { ...rest, swr: at.swr, ...(at.circle && { circle: at.circle }) }
      }),
    })),
  }
}

/** After an edit of the way: what is known of the antenna follows from what was read. */
export const followReadings = (before: ChainDocument, after: ChainDocument): ChainDocument =>
  before.stages === after.stages ? after : { ...after, load: carriedLoad(after) }

/** The antenna as it is, whatever the way becomes: what was read through another way says nothing of the new one, but what it left open stays. */
export function withoutReads(load: LoadDocument): LoadDocument {
  if (load.kind === 'swr') {
    const { read: _, ...rest } = load
    return rest
  }
  if (load.kind !== 'bands') return load
  return {
    ...load,
    bands: load.bands.map((band) => ({
      ...band,
      readings: band.readings.map(({ read: _, ...rest }) => rest),
    })),
  }
}
