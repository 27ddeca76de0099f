import { InputError } from '../errors.ts'

export interface FitPoint {
  mhz: number
  /** As given, dB per 100 m. */
  dbPer100m: number
  fittedDbPer100m: number
  /** (given − fitted) / fitted. */
  residual: number
  /** True where it lies so far off that it is likely a slip. */
  doubtful: boolean
}

export interface AttenuationFit {
  k1DbPer100m: number
  k2DbPer100m: number
  points: FitPoint[]
  /** Root mean square of the relative residuals. */
  rms: number
}

/** A point further off than this, relative, may be doubted, and only if it stands out from the rest. */
const DOUBT = 0.08

/**
 * Fits α(f) = k₁·√f + k₂·f (f in MHz) to data-sheet points by least squares on relative error, with
 * k₁, k₂ ≥ 0. With two unknowns the non-negative solution is the free one or lies on an axis.
 *
 * @param points [MHz, dB per 100 m], at least two different frequencies, loss rising with frequency
 * @throws InputError naming the point that is nonsense
 * @example fitAttenuation([[10, 6.5], [100, 22]]).k1DbPer100m // 1.989
 */
export function fitAttenuation(points: readonly (readonly [number, number])[]): AttenuationFit {
  const sorted = checkPoints(points)
  let { k1, k2 } = solve(sorted)
  const first = assess(sorted, k1, k2)
  // A point that stands out must not drag the rest with it: fit again without it, then judge all.
  const trusted = sorted.filter((_, i) => !first.points[i]!.doubtful)
  if (trusted.length < sorted.length && trusted.length >= 3) ({ k1, k2 } = solve(trusted))
  return { k1DbPer100m: k1, k2DbPer100m: k2, ...assess(sorted, k1, k2) }
}

function checkPoints(points: readonly (readonly [number, number])[]): [number, number][] {
  points.forEach(([mhz, db], i) => {
    if (!(mhz > 0 && Number.isFinite(mhz)))
      throw new InputError(`Point ${i + 1}: the frequency must be more than 0, not ${mhz} MHz.`, [
        i,
      ])
    if (!(db > 0 && Number.isFinite(db)))
      throw new InputError(`Point ${i + 1}: the loss must be more than 0, not ${db} dB.`, [i])
  })
  const sorted = points.map(([f, a]): [number, number] => [f, a]).sort((a, b) => a[0] - b[0])
  if (new Set(sorted.map(([f]) => f)).size < 2)
    throw new InputError('At least two points at different frequencies are needed.')
  const [low, high] = [sorted[0]!, sorted[sorted.length - 1]!]
  if (high[1] <= low[1]) {
    throw new InputError(
      `The loss must rise with frequency, but it is ${low[1]} dB at ${low[0]} MHz and ${high[1]} dB at ${high[0]} MHz. Are the columns the right way round?`,
    )
  }
  return sorted
}

/** Normal equations of Σ((k₁·√f + k₂·f)/α − 1)², restricted to the quadrant. */
function solve(points: readonly (readonly [number, number])[]): { k1: number; k2: number } {
  let xx = 0
  let xy = 0
  let yy = 0
  let x1 = 0
  let y1 = 0
  for (const [f, a] of points) {
    const x = Math.sqrt(f) / a
    const y = f / a
    xx += x * x
    xy += x * y
    yy += y * y
    x1 += x
    y1 += y
  }
  const det = xx * yy - xy * xy
  const k1 = det > 1e-12 * xx * yy ? (x1 * yy - y1 * xy) / det : x1 / xx
  const k2 = det > 1e-12 * xx * yy ? (y1 * xx - x1 * xy) / det : 0
  if (k2 < 0) return { k1: x1 / xx, k2: 0 }
  if (k1 < 0) return { k1: 0, k2: y1 / yy }
  return { k1, k2 }
}

function assess(sorted: readonly [number, number][], k1: number, k2: number) {
  const raw = sorted.map(([mhz, dbPer100m]) => {
    const fittedDbPer100m = k1 * Math.sqrt(mhz) + k2 * mhz
    return { mhz, dbPer100m, fittedDbPer100m, residual: dbPer100m / fittedDbPer100m - 1 }
  })
  const sizes = raw.map(({ residual }) => Math.abs(residual)).sort((a, b) => a - b)
  const typical = sizes[Math.floor((sizes.length - 1) / 2)]!
  const points = raw.map((p) => ({
    ...p,
    doubtful: Math.abs(p.residual) > Math.max(DOUBT, 3 * typical),
  }))
  const rms = Math.sqrt(raw.reduce((sum, p) => sum + p.residual ** 2, 0) / raw.length)
  return { points, rms }
}
