/**
 * Voltage, current and heat along a line, exactly.
 *
 * At a distance x from the load end, V(x) = a·e^(γx) + b·e^(−γx), so |V|², |I|² and the heat per
 * metre are all of one form: A·e^(2αx) + B·e^(−2αx) + C·cos(2βx + φ). This file knows that form.
 */
import type { LineConstants } from './constants.ts'

/** Phasors (RMS) at the load end of a line. */
export interface LineEnd {
  vRe: number
  vIm: number
  iRe: number
  iIm: number
}

/** A·e^(2αx) + B·e^(−2αx) + C·cos(2βx + φ) for x metres from the load end, less `originM`. */
export interface Profile {
  originM: number
  growing: number
  falling: number
  ripple: number
  phaseRad: number
  alpha: number
  beta: number
}

/**
 * The square of the voltage (or current) at a distance from the load (m).
 *
 * @internal
 */
export function profileAt(p: Profile, fromLoadM: number): number {
  const x = fromLoadM - p.originM
  // On a line that loses hundreds of decibels the falling part is none, and its exponential too large.
  const falling = p.falling === 0 ? 0 : p.falling * Math.exp(-2 * p.alpha * x)
  const ripple = p.ripple === 0 ? 0 : p.ripple * Math.cos(2 * p.beta * x + p.phaseRad)
  return p.growing * Math.exp(2 * p.alpha * x) + falling + ripple
}

export interface LineProfiles {
  /** |V|², V². */
  voltageSquared: Profile
  /** |I|², A². */
  currentSquared: Profile
  /** |I|²·R + |V|²·G, W/m. */
  heatPerM: Profile
  /** Net power Re(V·I*), W. Its ripple comes from the complex Zc. */
  netW: (xFromLoadM: number) => number
}

/** The profiles of a line whose load-end phasors are known. */
export function lineProfiles(line: LineConstants, end: LineEnd): LineProfiles {
  const { alpha, beta, zcRe, zcIm, rPerM, gPerM } = line
  const ziRe = zcRe * end.iRe - zcIm * end.iIm
  const ziIm = zcRe * end.iIm + zcIm * end.iRe
  const aRe = (end.vRe + ziRe) / 2
  const aIm = (end.vIm + ziIm) / 2
  const bRe = (end.vRe - ziRe) / 2
  const bIm = (end.vIm - ziIm) / 2
  const growing = aRe * aRe + aIm * aIm
  const falling = bRe * bRe + bIm * bIm
  const ripple = 2 * Math.sqrt(growing * falling)
  const phaseRad = Math.atan2(aIm, aRe) - Math.atan2(bIm, bRe)
  const zc2 = zcRe * zcRe + zcIm * zcIm
  const voltageSquared = { originM: 0, growing, falling, ripple, phaseRad, alpha, beta }
  return {
    voltageSquared,
    currentSquared: weighted(voltageSquared, 1 / zc2, -1 / zc2),
    heatPerM: weighted(voltageSquared, rPerM / zc2 + gPerM, gPerM - rPerM / zc2),
    // Re(V·I*) with V = P + Q, I = (P − Q)/Zc: (Re Zc·(|P|² − |Q|²) + 2·Im Zc·Im(P·Q*))/|Zc|².
    netW: (x) =>
      (zcRe * (growing * Math.exp(2 * alpha * x) - falling * Math.exp(-2 * alpha * x)) +
        zcIm * ripple * Math.sin(2 * beta * x + phaseRad)) /
      zc2,
  }
}

/** A profile whose waves count `even` times, and whose ripple `odd` times. */
const weighted = (p: Profile, even: number, odd: number): Profile => ({
  originM: p.originM,
  growing: p.growing * even,
  falling: p.falling * even,
  ripple: p.ripple * odd,
  phaseRad: p.phaseRad,
  alpha: p.alpha,
  beta: p.beta,
})

/** From so many nepers on, what comes back to a line's input is nothing beside what goes in (e⁻⁴⁰). */
export const ONE_WAY_NEPER = 20

/**
 * The profiles of a line that loses so much that nothing of what its load returns reaches its input:
 * one wave that dies away, known from the input's phasors.
 */
export function oneWayProfiles(line: LineConstants, input: LineEnd, lengthM: number): LineProfiles {
  const { alpha, beta, zcRe, zcIm, rPerM, gPerM } = line
  const growing = input.vRe ** 2 + input.vIm ** 2
  const zc2 = zcRe * zcRe + zcIm * zcIm
  const form = (even: number): Profile => ({
    originM: lengthM,
    growing: growing * even,
    falling: 0,
    ripple: 0,
    phaseRad: 0,
    alpha,
    beta,
  })
  const net = form(zcRe / zc2)
  return {
    voltageSquared: form(1),
    currentSquared: form(1 / zc2),
    heatPerM: form(rPerM / zc2 + gPerM),
    netW: (x) => profileAt(net, x),
  }
}

export interface Extreme {
  value: number
  /** Where, metres from the load end of this line. */
  fromLoadM: number
}

/**
 * The largest value of a profile on 0 … lengthM and its place.
 *
 * Only the first and the last half wavelength need to be searched: one period p further on, the
 * cosine is the same and the rest, A·e^(2αx) + B·e^(−2αx), is convex. So the values at x, x + p,
 * x + 2p … are convex too, and the largest of them is the first or the last.
 */
export function maximumOf(profile: Profile, lengthM: number): Extreme {
  const period = Math.PI / profile.beta
  if (lengthM <= 2 * period) return search(profile, 0, lengthM)
  const near = search(profile, 0, period)
  const far = search(profile, lengthM - period, lengthM)
  return far.value > near.value ? far : near
}

/**
 * The largest value between two places: at an end, or on a hump. The humps stand where the ripple is highest, shifted by the
 * slope under it, which asks for f' = 0: the slope as it is there for a start, then Newton's steps.
 */
function search(profile: Profile, from: number, to: number): Extreme {
  const { ripple, phaseRad, beta } = profile
  let value = profileAt(profile, from)
  let fromLoadM = from
  // Without a ripple the rest is convex: an end is the largest.
  const atEnd = profileAt(profile, to)
  if (atEnd >= value) {
    value = atEnd
    fromLoadM = to
  }
  if (ripple === 0) return { value, fromLoadM }
  const top = ripple > 0 ? -phaseRad : Math.PI - phaseRad
  const first = Math.ceil((2 * beta * from - top) / (2 * Math.PI) - 0.25)
  const last = Math.floor((2 * beta * to - top) / (2 * Math.PI) + 0.25)
  for (let k = first; k <= last; k++) {
    const x = hump(profile, (top + 2 * Math.PI * k) / (2 * beta))
    if (!(x > from && x < to)) continue
    const there = profileAt(profile, x)
    if (there < value) continue
    value = there
    fromLoadM = x
  }
  return { value, fromLoadM }
}

/** Newton’s steps are few; the height goes with the square of the distance, so this is exact to rounding. */
const STEPS = 6

/** The place of the hump whose ripple is highest at `topM`, m; NaN where the slope leaves none. */
function hump({ growing, falling, ripple, alpha, beta }: Profile, topM: number): number {
  // With u from the top, ripple·cos becomes |ripple|·cos(2βu).
  const size = Math.abs(ripple)
  let u = 0
  for (let i = 0; i < STEPS; i++) {
    const e = Math.exp(2 * alpha * (topM + u))
    const up = growing * e
    const down = falling === 0 ? 0 : falling / e
    const slope = 2 * alpha * (up - down)
    const sine = Math.sin(2 * beta * u)
    if (i === 0) {
      const steep = slope / (2 * beta * size)
      if (!(Math.abs(steep) <= 1)) return NaN
      u = Math.asin(steep) / (2 * beta)
      continue
    }
    const bend = 4 * alpha * alpha * (up + down) - 4 * beta * beta * size * Math.cos(2 * beta * u)
    if (!(bend < 0)) return NaN
    const step = (slope - 2 * beta * size * sine) / bend
    u -= step
    if (Math.abs(step * beta) < 1e-9) break
  }
  return topM + u
}
