/** What a sweep says of each part of a chain: the chain is fitted to it. */
import { type Chain, referenceOf } from '../chain/chain.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { DB_PER_NEPER } from '../constants.ts'
import { lineConstants, matchedLossDb } from '../line/constants.ts'
import { cableToday } from '../stages/line.ts'
import type { Load } from '../load/load.ts'
import { padLossDb } from '../stages/pad.ts'
import { opaque } from '../stages/stage.ts'
import { type CurveFit, fitCurve } from '../statistics/curveFit.ts'
import { upperQuantile } from '../statistics/gaussian.ts'
import { hides } from './alongLine.ts'
import type { FarEnd } from '../chain/farEnd.ts'
import { type Cascade, cascade } from './cascade.ts'
import type { FigureKind } from './pieces.ts'
import { evenly, type Reflections } from './evenSweep.ts'
import { beginnings, delayOf, spreadOut, thinned, within } from './fitBegin.ts'
import { below, usualAnalyser } from './analyserErrors.ts'

/** A figure as it is written down, and as the sweep has it: 5 to 95 %. */
export interface FittedFigure {
  written: number
  value: number
  low: number
  high: number
  /** False where the sweep says little that was not known before. */
  told: boolean
}

/** Parts whose figures the sweep knows together better than one by one. */
export interface Together {
  /** Stages, from the plane on. */
  stages: [number, number]
  what: 'length' | 'loss'
}

export interface SweepFit {
  /** Of every cable: its length at the velocity that is written down, m, its matched loss, dB, and that of a metre over what is written. */
  lines: {
    stage: number
    lengthM: FittedFigure
    lossDb: FittedFigure
    lossPerMetre: FittedFigure
  }[]
  /** Of connectors and other small parts, dB. */
  parts: { stage: number; lossDb: FittedFigure }[]
  /**
   * Wherever cables meet parts, in front of the stage that is named, the antenna being behind the last one: a resistance and a
   * reactance in the way of the current, Ω, |ρ| of them, and a loss that belongs to no part, dB.
   */
  joints: {
    stage: number
    rOhm: FittedFigure
    xOhm: FittedFigure
    extraDb: FittedFigure
    rho: number
  }[]
  /** The antenna’s frequencies over those written down; of a resonator, its figures. Null where it has no resonance. */
  antenna: {
    frequencies: FittedFigure
    resonator: { resonanceHz: FittedFigure; q: FittedFigure; rOhm: FittedFigure } | null
  } | null
  /** Of all that lies on the way: its loss between matched ends, dB one way, and its length, m. */
  lossDb: FittedFigure
  lengthM: FittedFigure
  /** Losses and reactances are for here. */
  middleHz: number
  together: Together[]
  /** Root mean square of what the fit leaves, |ρ|, and whether an analyser may be so far off. */
  rms: number
  fits: boolean
}

/** A figure is told where its range is this much narrower than before. */
const TOLD = 0.6
const TOGETHER = 0.9
const RANGE = upperQuantile(0.05)
/** A sweep is first taken to be off by so much of |ρ|: what is far from the truth is to lead there. */
const FIRST_ERROR = 0.02
/** More is left by something that is no figure of the chain, in shares of the directivity. */
const MOST_LEFT = 1.5

/**
 * Fits lengths, losses, joints and the antenna to a sweep, each expected within the chain’s tolerances, and the errors of the
 * analyser with them. A cable’s length and its velocity are one figure to a sweep: the velocity is taken as written.
 *
 * @param plane where the analyser is connected
 * @param analyser how far it may be off
 * @returns null where what the antenna reflects over the sweep is not known
 * @throws InputError where a sweep is too short, too long or has a hole, or a tuner or an amplifier lies behind the plane
 */
export function fitSweep(
  chain: Chain,
  plane: number,
  sweep: Reflections,
  farEnd: FarEnd,
  tolerances: Tolerances,
  { analyser = usualAnalyser } = {},
): SweepFit | null {
  const fitted = fittedCurve(chain, plane, sweep, farEnd, tolerances, analyser)
  if (!fitted) return null
  const { curve, fit } = fitted
  return told(curve, fit, chain, plane, below(analyser.directivityDb))
}

/** The chain behind a plane as a curve, and its fit to a sweep; see `fitSweep`. */
export function fittedCurve(
  chain: Chain,
  plane: number,
  sweep: Reflections,
  farEnd: FarEnd,
  tolerances: Tolerances,
  analyser = usualAnalyser,
): { curve: Cascade; fit: CurveFit } | null {
  const stages = chain.stages.slice(plane)
  const hiding = stages.find(hides)
  if (hiding) throw opaque(hiding)
  const lines = stages.flatMap((stage, k) =>
    stage.kind === 'line' && !stage.bypassed && stage.lengthM > 0 ? [{ stage, k }] : [],
  )
  const known = farEnd === 'antenna' ? within(sweep, chain.load) : sweep
  if (known.frequencyHz.length === 0) return null
  const points = thinned(evenly(known), Math.max(0, ...lines.map(({ stage }) => delayOf(stage))))
  const curve = cascade(chain, plane, points, farEnd, tolerances, analyser)
  if (!curve) return null
  const fit = fitCurve(curve, {
    ...(farEnd === 'load' ? { parameters: spreadOut(curve) } : beginnings(curve, points, lines)),
    ...{ error: FIRST_ERROR, leastError: below(analyser.noiseDb) },
  })
  return { curve, fit }
}

/** A sum of figures, each so many of a unit. */
type Weights = ReadonlyMap<number, number>

function told(
  { figures, middleHz }: Cascade,
  { parameters, covariance, rms }: CurveFit,
  chain: Chain,
  plane: number,
  error: number,
): SweepFit {
  const stages = chain.stages.slice(plane)
  const reference = referenceOf(chain)
  const n = figures.length
  const covarianceOf = (p: number, q: number) => covariance[p * n + q]!
  /** A sum of figures with the range of it. */
  const fitted = (written: number, weights: Weights): FittedFigure => {
    let value = written
    let variance = 0
    let before = 0
    for (const [p, weight] of weights) {
      value += weight * parameters[p]!
      before += (weight * figures[p]!.deviation) ** 2
      for (const [q, other] of weights) variance += weight * other * covarianceOf(p, q)
    }
    const reach = RANGE * Math.sqrt(variance)
    return {
      ...{ written, value, low: value - reach, high: value + reach },
      told: variance < TOLD * TOLD * before,
    }
  }
  const at = (kind: FigureKind, stage: number | null) =>
    figures.findIndex((own) => own.kind === kind && own.stage === stage)
  const one = (kind: FigureKind, stage: number | null, written: number, unit = written) =>
    fitted(written, new Map([[at(kind, stage), unit]]))
  const all: { loss: Map<number, number>; length: Map<number, number> } = {
    loss: new Map(),
    length: new Map(),
  }
  const sums = { loss: 0, length: 0 }
  const add = (what: 'loss' | 'length', stage: number, written: number) => {
    sums[what] += written
    all[what].set(at(what, stage), written)
  }
  const lines: SweepFit['lines'] = []
  const parts: SweepFit['parts'] = []
  stages.forEach((stage, k) => {
    if (at('loss', k) < 0) return
    if (stage.kind === 'line') {
      const lossDb = matchedLossDb(lineConstants(cableToday(stage), middleHz), stage.lengthM)
      add('loss', k, lossDb)
      add('length', k, stage.lengthM)
      // A longer cable loses more.
      all.loss.set(at('length', k), lossDb)
      lines.push({
        ...{ stage: k, lengthM: one('length', k, stage.lengthM) },
        lossPerMetre: one('loss', k, 1),
        lossDb: fitted(
          lossDb,
          new Map([
            [at('loss', k), lossDb],
            [at('length', k), lossDb],
          ]),
        ),
      })
    } else if (stage.kind === 'pad') {
      const lossDb = padLossDb(stage, middleHz)
      add('loss', k, lossDb)
      parts.push({ stage: k, lossDb: one('loss', k, lossDb) })
    }
  })
  const joints = figures.flatMap(({ kind, stage }, p) => {
    if (kind !== 'resistance') return []
    const [series, across] = [at('reactance', stage), at('capacitance', stage)]
    const reactance = parameters[series]! + parameters[across]!
    const rho = Math.hypot(parameters[p]!, reactance) / (2 * reference)
    // In the way between matched ends, a small resistance takes 20·lg(1 + R/2R₀).
    all.loss.set(p, DB_PER_NEPER / (2 * reference))
    all.loss.set(at('extra', stage), 1)
    return [
      {
        ...{ stage: stage!, rho },
        rOhm: one('resistance', stage, 0, 1),
        xOhm: fitted(
          0,
          new Map([
            [series, 1],
            [across, 1],
          ]),
        ),
        extraDb: one('extra', stage, 0, 1),
      },
    ]
  })
  return {
    ...{ lines, parts, joints, middleHz, rms },
    antenna: at('shift', null) < 0 ? null : antennaOf(chain.load, one),
    lossDb: fitted(sums.loss, all.loss),
    lengthM: fitted(sums.length, all.length),
    together: (['length', 'loss'] as const).flatMap((what) =>
      togetherOf(
        what,
        [...all[what].keys()].filter((p) => figures[p]!.kind === what),
        figures,
        covarianceOf,
      ),
    ),
    fits: rms < MOST_LEFT * error,
  }
}

function antennaOf(
  load: Load,
  one: (kind: FigureKind, stage: null, written: number) => FittedFigure,
): SweepFit['antenna'] {
  return {
    frequencies: one('shift', null, 1),
    resonator:
      load.kind === 'resonator'
        ? {
            resonanceHz: one('shift', null, load.resonanceHz),
            q: one('q', null, load.q),
            rOhm: one('ohm', null, load.rOhm),
          }
        : null,
  }
}

/** Figures whose sum is known far better than either of them. */
function togetherOf(
  what: Together['what'],
  own: readonly number[],
  figures: Cascade['figures'],
  covarianceOf: (p: number, q: number) => number,
): Together[] {
  return own.flatMap((p, i) =>
    own.slice(i + 1).flatMap((q): Together[] => {
      const size = Math.sqrt(covarianceOf(p, p) * covarianceOf(q, q))
      const [a, b] = [figures[p]!.stage!, figures[q]!.stage!]
      return covarianceOf(p, q) < -TOGETHER * size ? [{ what, stages: [a, b] }] : []
    }),
  )
}
