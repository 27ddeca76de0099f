/** What stands out of reflections along a line. */
import type { Stage } from '../stages/stage.ts'

/** A place that reflects more than expected. */
export interface LineFinding {
  atM: number
  measured: number
  expected: number
  /** The stage it lies in, from the plane of measurement on; or whose joint it is, where a plane is as near as can be told. */
  stage: number
  /** True where it is at the plane in front of that stage. */
  atJoint: boolean
  /** Whether the impedance rises there, as over a resistance, or falls; null where the sweep does not tell. */
  rises: boolean | null
}

/** No analyser tells less than this from nothing: |ρ| of a usual directivity, 40 dB, and what a good joint reflects. */
const LEAST_FOUND = 0.03
const MOST_FINDINGS = 3
/** An end is looked for from this share of the length that is written down. */
const END_FROM = 0.5

/** Heights along a line, as `AlongLine` has them. */
interface View {
  distanceM: Float64Array
  measured: Float64Array
  expected: Float64Array
  placesM: readonly number[]
  resolutionM: number
}

/** The highest of some heights within a distance of a place. */
function highestNear(
  { distanceM }: View,
  heights: Float64Array,
  atM: number,
  withinM: number,
): number {
  let most = 0
  for (let i = 0; i < heights.length; i++)
    if (Math.abs(distanceM[i]! - atM) <= withinM) most = Math.max(most, heights[i]!)
  return most
}

/**
 * Peaks that stand above what is expected anywhere near, before the end of the line.
 *
 * @param signed heights with their sign; null where it is not known
 */
export function findingsOf(
  view: View,
  stages: readonly Stage[],
  untilM: number,
  signed: Float64Array | null,
): LineFinding[] {
  const { distanceM, measured, placesM, resolutionM } = view
  const found: LineFinding[] = []
  for (let i = 0; i < measured.length - 1; i++) {
    const atM = distanceM[i]!
    if (atM > untilM) break
    if (!(measured[i]! >= (measured[i - 1] ?? 0) && measured[i]! > measured[i + 1]!)) continue
    // Lengths and velocities are known to some per cent: what is expected may lie a little beside.
    const expected = highestNear(view, view.expected, atM, resolutionM + 0.03 * atM)
    if (measured[i]! < Math.max(LEAST_FOUND, 1.5 * expected + LEAST_FOUND / 2)) continue
    const nearest = placesM.reduce(
      (best, place, k) => (Math.abs(place - atM) < Math.abs(placesM[best]! - atM) ? k : best),
      0,
    )
    const atJoint = Math.abs(placesM[nearest]! - atM) <= resolutionM / 2 && nearest < stages.length
    const inside = placesM.findLastIndex((place) => place <= atM)
    found.push({
      atM,
      measured: measured[i]!,
      expected,
      stage: atJoint ? nearest : Math.min(inside, stages.length - 1),
      atJoint,
      rises: signed && signed[i]! > 0,
    })
  }
  // A side lobe, or the flank of something stronger within the resolution, is no finding of its own.
  return found
    .sort((a, b) => b.measured - a.measured)
    .filter((own, i, all) =>
      all
        .slice(0, i)
        .every(
          ({ atM, measured }) => Math.abs(atM - own.atM) > resolutionM || own.measured > measured,
        ),
    )
    .slice(0, MOST_FINDINGS)
    .sort((a, b) => a.atM - b.atM)
}

/** Where the open or shorted end is found, and what the way loses beyond what it should; null where none is seen. */
export function endOf(view: View, lengthM: number): { atM: number; extraLossDb: number } | null {
  const { distanceM, measured, expected } = view
  const peakOf = (heights: Float64Array) => {
    let best = -1
    for (let i = 1; i < heights.length - 1; i++)
      if (distanceM[i]! > END_FROM * lengthM && heights[i]! > (heights[best] ?? 0)) best = i
    if (best < 0) return null
    // The top of the parabola through the highest three.
    const [a, b, c] = [heights[best - 1]!, heights[best]!, heights[best + 1]!]
    const bend = a - 2 * b + c
    const off = bend < 0 ? Math.max(-1, Math.min(1, (a - c) / (2 * bend))) : 0
    const step =
      off < 0 ? distanceM[best]! - distanceM[best - 1]! : distanceM[best + 1]! - distanceM[best]!
    return { atM: distanceM[best]! + off * step, height: b - ((a - c) * off) / 4 }
  }
  const [own, due] = [peakOf(measured), peakOf(expected)]
  if (!own || !due || !(own.height > LEAST_FOUND)) return null
  return { atM: own.atM, extraLossDb: -10 * Math.log10(own.height / due.height) }
}
