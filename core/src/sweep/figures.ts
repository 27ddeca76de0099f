/** What a sweep comes to in a few figures, and what changed from one to the next. */
import { swrOf } from '../load/reflection.ts'
import { analyserError, usualAnalyser } from './analyserErrors.ts'
import type { AlongLine } from './alongLine.ts'
import type { Reflections } from './evenSweep.ts'

/** A figure with the range that the analyser leaves it. */
export interface SweepFigure {
  value: number
  low: number
  high: number
}

/** Where an antenna resonates, or a line is short or long enough to look so: the SWR is less than on both sides. */
export interface SweepDip {
  /** Hz */
  at: SweepFigure
  swr: SweepFigure
  /** Where the SWR stays at or under 2 around it, Hz; null where it is higher, or an edge of the sweep is reached. */
  bandwidthHz: SweepFigure | null
}

export interface SweepFigures {
  /** The deepest few, rising. */
  dips: SweepDip[]
  /** Of an open or shorted end: what the way loses beyond what it should, dB one way, and where the end is found, m. */
  extraLossDb: SweepFigure | null
  endM: SweepFigure | null
}

const BAND_SWR = 2
const BAND_RHO = (BAND_SWR - 1) / (BAND_SWR + 1)
const MOST_DIPS = 6
/** A dip that is less deep than this, |ρ| against both sides, is none. */
const LEAST_DEPTH = 0.1

/**
 * @param sweep at rising frequencies
 * @param along the same sweep against distance; null where there is no line to look along
 * @param analyser how far it may be off
 */
export function sweepFigures(
  { frequencyHz, re, im }: Reflections,
  along: Pick<AlongLine, 'end' | 'resolutionM' | 'endHeight'> | null,
  analyser = usualAnalyser,
): SweepFigures {
  const rho = Array.from({ length: frequencyHz.length }, (_, k) => Math.hypot(re[k]!, im[k]!))
  const errorAt = (size: number) => analyserError(analyser, size)
  const dips = dipsOf(rho, Math.max(LEAST_DEPTH, 2 * errorAt(0)))
    .sort((a, b) => rho[a]! - rho[b]!)
    .slice(0, MOST_DIPS)
    .sort((a, b) => a - b)
  const { end = null, resolutionM = 0, endHeight = 0 } = along ?? {}
  const error = errorAt(endHeight)
  const lossReach = endHeight > error ? 10 * Math.log10(endHeight / (endHeight - error)) : Infinity
  const around = (value: number, reach: number): SweepFigure => ({
    value,
    low: value - reach,
    high: value + reach,
  })
  return {
    dips: dips.map((k) => dipAt(frequencyHz, rho, k, errorAt)),
    extraLossDb: end && Number.isFinite(lossReach) ? around(end.extraLossDb, lossReach) : null,
    endM: end && around(end.atM, resolutionM / 10),
  }
}

/** Points lower than everything around them until the reflection has risen by a depth, on both sides. */
function dipsOf(rho: readonly number[], depth: number): number[] {
  const found: number[] = []
  let least = 0
  let most = 0
  let falling = false
  rho.forEach((size, k) => {
    if (falling) {
      if (size < rho[least]!) least = k
      if (size > rho[least]! + depth) {
        found.push(least)
        falling = false
        most = k
      }
    } else {
      if (size > rho[most]!) most = k
      if (size < rho[most]! - depth) {
        falling = true
        least = k
      }
    }
  })
  return found
}

function dipAt(
  frequencyHz: ArrayLike<number>,
  rho: readonly number[],
  least: number,
  errorAt: (rho: number) => number,
): SweepDip {
  const n = rho.length
  const own = rho[least]!
  const error = errorAt(own)
  const errorOfBand = errorAt(BAND_RHO)
  /** Outward from the dip, as far as the reflection stays at or under a size; null where it does so to an edge. */
  const edge = (size: number, step: 1 | -1): number | null => {
    let k = least
    while (k + step >= 0 && k + step < n && rho[k + step]! <= size) k += step
    const next = k + step
    if (next < 0 || next >= n) return null
    const share = (size - rho[k]!) / (rho[next]! - rho[k]!)
    return frequencyHz[k]! + Math.max(0, share) * (frequencyHz[next]! - frequencyHz[k]!)
  }
  const band = (size: number): number | null => {
    const [low, high] = [edge(size, -1), edge(size, 1)]
    return low === null || high === null ? null : high - low
  }
  const swr = (size: number) => swrOf(Math.min(0.9999, Math.max(0, size)))
  const width = own <= BAND_RHO ? band(BAND_RHO) : null
  return {
    at: {
      value: frequencyHz[least]!,
      // Anywhere here the least may be, by what the analyser adds.
      low: edge(own + error, -1) ?? frequencyHz[0]!,
      high: edge(own + error, 1) ?? frequencyHz[n - 1]!,
    },
    swr: { value: swr(own), low: swr(own - error), high: swr(own + error) },
    bandwidthHz:
      width === null
        ? null
        : {
            value: width,
            low: own <= BAND_RHO - errorOfBand ? (band(BAND_RHO - errorOfBand) ?? 0) : 0,
            high: band(BAND_RHO + errorOfBand) ?? frequencyHz[n - 1]! - frequencyHz[0]!,
          },
  }
}

export type SweepFigureName = 'dip' | 'swr' | 'bandwidth' | 'loss' | 'end'

/** A figure of a sweep by its name; of a dip, with where that is, Hz. */
export interface NamedFigure extends SweepFigure {
  name: SweepFigureName
  nearHz: number | null
}

/** All of them, one after the other. */
export const namedFigures = ({ dips, extraLossDb, endM }: SweepFigures): NamedFigure[] => [
  ...dips.flatMap(({ at, swr, bandwidthHz }): NamedFigure[] => [
    { name: 'dip', nearHz: at.value, ...at },
    { name: 'swr', nearHz: at.value, ...swr },
    ...(bandwidthHz ? [{ name: 'bandwidth' as const, nearHz: at.value, ...bandwidthHz }] : []),
  ]),
  ...(extraLossDb ? [{ name: 'loss' as const, nearHz: null, ...extraLossDb }] : []),
  ...(endM ? [{ name: 'end' as const, nearHz: null, ...endM }] : []),
]

/** Dips further apart than this share of their frequency are two. */
const SAME_DIP = 0.04

/** The figure of a sweep that another one’s speaks of too; the nearest dip of dips. */
export const sameFigure = (
  wanted: Pick<NamedFigure, 'name' | 'nearHz'>,
  figures: SweepFigures,
): NamedFigure | null =>
  namedFigures(figures)
    .filter(
      ({ name, nearHz }) =>
        name === wanted.name &&
        (nearHz === null || Math.abs(nearHz - wanted.nearHz!) <= SAME_DIP * wanted.nearHz!),
    )
    .sort(
      (a, b) => Math.abs(a.nearHz! - wanted.nearHz!) - Math.abs(b.nearHz! - wanted.nearHz!),
    )[0] ?? null

/** How a figure moved from one sweep to a later one. */
export interface SweepChange {
  name: SweepFigureName
  /** Of a dip: where it is now, Hz. */
  nearHz: number | null
  from: number
  to: number
  /** Half of the range of the difference. */
  reach: number
  /** More than the analyser may be off by. */
  real: boolean
}

/** What moved between two sweeps of one place; figures that one of them lacks are left out. */
export const sweepChanges = (then: SweepFigures, now: SweepFigures): SweepChange[] =>
  namedFigures(now).flatMap((b) => {
    const a = sameFigure(b, then)
    if (!a) return []
    const reach = Math.hypot(a.high - a.low, b.high - b.low) / 2
    return [
      {
        ...{ name: b.name, nearHz: b.nearHz, from: a.value, to: b.value, reach },
        real: Math.abs(b.value - a.value) > reach,
      },
    ]
  })
