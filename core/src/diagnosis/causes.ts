/** What can be wrong with a station, as data, and what each cause does to the waves at every plane. */
import { type Complex, complex } from '../complex.ts'
import { boundedReflection, deviationOf, mostOf } from '../chain/drawStation.ts'
import { newPhasors } from '../chain/phasors.ts'
import { walk } from '../chain/walk.ts'
import { settingsNow } from '../chain/tunerSettings.ts'
import { type Chain, type OperatingPoint, referenceOf, type TunerSettings } from '../chain/chain.ts'
import { type FastWaves, fastWaves, planeWaves, type SolvedWaves } from '../chain/fastWaves.ts'
import { type ReadPoint, withEnd } from '../chain/farEnd.ts'
import { OutOfRangeError } from '../errors.ts'
import { type Load, reflectionAt } from '../load/load.ts'
import { jointOhm } from '../stages/series.ts'
import type { Stage } from '../stages/stage.ts'

/** `point` is an index into the operating points; null where all of them are meant. */
export type Cause =
  | { kind: 'none' }
  /** Output differs by `db`; negative is less. */
  | { kind: 'transmitter'; db: number; point: number | null }
  /**
   * A loss that does not belong there, somewhere in the stages from … to: `db` on a matched line of the reference, either way.
   * As a resistance in a joint it reflects as well, and loses most where the current is highest.
   */
  | { kind: 'loss'; from: number; to: number; db: number; joint?: boolean }
  /** The loss of a cable is `factor` times its own. */
  | { kind: 'aged'; stage: number; factor: number }
  /** Tuners that set themselves follow it; one with knobs only where it was `retuned`. */
  | { kind: 'antenna'; change: AntennaChange; point: number | null; retuned?: boolean }
  /** It shows `factor` times the power. */
  | { kind: 'meter'; instrument: number; factor: number; why: 'off' | 'scale' }
  /** A peak meter that shows the mean. */
  | { kind: 'averaging'; instrument: number }
  /** Current on the braid: reflections read anything, by about so much |ρ|. */
  | { kind: 'common mode'; rho: number }
  /** One reading is written down wrong, or was taken of something else. */
  | { kind: 'slip'; reading: number }
  /** None of these: several things at once, or something that nobody has thought of. */
  | { kind: 'other' }

export type CauseKind = Cause['kind']

/** A cause is weighed in sizes, each so many times the one before. */
export const SIZE_RATIO = { loss: 1.1, aged: 1.08, moved: 1.2 }

export type AntennaChange =
  /** Its curve moved along the frequency, as a share: + is upward. */
  | { kind: 'moved'; share: number }
  /** Its reflection at the feed point changed by this. */
  | { kind: 'other'; by: Complex }
  /** Open or shorted. */
  | { kind: 'broken'; reflection: Complex }

/** Waves of one operating point with and without causes. */
export interface CausedWaves {
  nominal: SolvedWaves
  under: (cause: Cause) => SolvedWaves
  /** How often the tuners match under a cause, with the antenna as far off as it may be; a share, never none or all. */
  matchShare: (cause: Cause) => number
}

/** Where an antenna may be, in deviations of its reflection: as it is, and half of the draws within the others. */
const MAY_BE = [0, 1, 2, 3, 4, 5].map((k) => {
  const angle = (k * Math.PI) / 3
  return complex(1.2 * Math.cos(angle), 1.2 * Math.sin(angle))
})

/**
 * Prepares one operating point of a chain for many causes. Faults that belong to meters and readings leave
 * the waves as they are.
 *
 * @param point the channel that it is of, for causes which concern one channel
 * @param tolerance of the antenna's reflection, a share of its size
 */
export function causedWaves(
  given: Chain,
  at: ReadPoint,
  point: number,
  tolerance: number,
): CausedWaves {
  const { farEnd = 'antenna' } = at
  const chain = withEnd(given, farEnd)
  const fast = fastWaves(chain, at)
  const asIs = fast.walked(chain.stages, fast.reflection)
  const nominal = fast.solve(chain.stages, fast.reflection, at.powerW)
  const elsewhere = (cause: Cause) =>
    ('point' in cause && cause.point !== null && cause.point !== point) ||
    (cause.kind === 'antenna' && farEnd !== 'antenna')
  /** @param off what the antenna reflects besides what is written down */
  const solve = (cause: Cause, off?: Complex): SolvedWaves => {
    const own = off ? bounded(fast.reflection, off) : fast.reflection
    switch (cause.kind) {
      case 'transmitter': {
        const powerW = at.powerW * 10 ** (cause.db / 10)
        return off
          ? fast.solve(chain.stages, own, powerW)
          : { ...fast.driven(asIs, powerW), matched: nominal.matched }
      }
      case 'loss':
        return withLoss(chain, fast, own, at, cause)
      case 'aged':
        return fast.solve(aged(chain.stages, cause), own, at.powerW)
      case 'antenna':
        return withAntenna(chain, fast, at, cause, off)
      default:
        return off ? fast.solve(chain.stages, own, at.powerW) : nominal
    }
  }
  const deviation = deviationOf(fast.reflection, tolerance)
  return {
    nominal,
    under: (cause) => (elsewhere(cause) ? nominal : solve(cause)),
    matchShare(cause) {
      const own = elsewhere(cause) ? ({ kind: 'none' } as const) : cause
      let matched = Number(solve(own).matched)
      for (const { re, im } of MAY_BE)
        matched += Number(solve(own, complex(re * deviation, im * deviation)).matched)
      return (matched + 0.5) / (MAY_BE.length + 2)
    },
  }
}

const bounded = (rho: Complex, off: Complex): Complex =>
  boundedReflection(complex(rho.re + off.re, rho.im + off.im), mostOf(rho))

/** The loss right behind stage `to`: the plane behind that stage is the one behind the loss. */
function withLoss(
  chain: Chain,
  fast: FastWaves,
  reflection: Complex,
  at: OperatingPoint,
  cause: Extract<Cause, { kind: 'loss' }>,
): SolvedWaves {
  const { to } = cause
  const stages = insertLoss(chain.stages, to, cause, referenceOf(chain))
  const { forwardW, rho, matched } = fast.solve(stages, reflection, at.powerW)
  const without = (values: Float64Array) => values.filter((_, plane) => plane !== to + 1)
  return { forwardW: without(forwardW), rho: without(rho), matched }
}

/** Stages with a loss put in behind stage `after`. */
export const insertLoss = (
  stages: readonly Stage[],
  after: number,
  { db, joint }: { db: number; joint?: boolean },
  referenceOhm: number,
): Stage[] => [
  ...stages.slice(0, after + 1),
  joint
    ? { kind: 'series', rOhm: jointOhm(db, referenceOhm), xOhm: 0 }
    : { kind: 'pad', lossDb: db },
  ...stages.slice(after + 1),
]

/** Stages with one cable's loss multiplied. */
export const aged = (
  stages: readonly Stage[],
  { stage, factor }: { stage: number; factor: number },
): Stage[] =>
  stages.map((own, k) =>
    k === stage && own.kind === 'line'
      ? { ...own, ageing: { factor: (own.ageing?.factor ?? 1) * factor } }
      : own,
  )

/** Reflection of a load that has changed, on the reference. */
export function changedReflection(
  load: Load,
  change: AntennaChange,
  frequencyHz: number,
  referenceOhm: number,
): Complex {
  if (change.kind === 'broken') return change.reflection
  if (change.kind === 'moved') {
    try {
      return reflectionAt(load, frequencyHz / (1 + change.share), referenceOhm)
    } catch (error) {
      // Where the sweep ends, its end is the best there is.
      if (!(error instanceof OutOfRangeError)) throw error
      const hz = frequencyHz / (1 + change.share) < error.lowHz ? error.lowHz : error.highHz
      return reflectionAt(load, hz, referenceOhm)
    }
  }
  const own = reflectionAt(load, frequencyHz, referenceOhm)
  return boundedReflection(complex(own.re + change.by.re, own.im + change.by.im))
}

/** Where the tuners with knobs stand; the others are left to set themselves. */
export const standing = (chain: Chain, at: OperatingPoint): TunerSettings =>
  settingsNow(chain, at).map((setting, k) => (hasKnobs(chain.stages[k]!) ? setting : undefined))

/** Whether a stage is a tuner that keeps the setting a hand gave it. */
export const hasKnobs = (stage: Stage): boolean =>
  stage.kind === 'tuner' && stage.method === 'network' && !stage.automatic && !stage.bypassed

function withAntenna(
  chain: Chain,
  fast: FastWaves,
  at: OperatingPoint,
  { change, retuned }: { change: AntennaChange; retuned?: boolean },
  off?: Complex,
): SolvedWaves {
  const { stages } = chain
  const reference = referenceOf(chain)
  const changed = changedReflection(chain.load, change, at.frequencyHz, reference)
  const load = off ? bounded(changed, off) : changed
  if (retuned || !stages.some(hasKnobs)) return fast.solve(stages, load, at.powerW)
  const settings = [...standing(chain, at)]
  const phasors = newPhasors(stages.length)
  walk(stages, at.frequencyHz, reference, load, phasors, settings)
  const matched = settings.every((setting) => setting?.matched ?? true)
  return { ...planeWaves(chain, at, phasors), matched }
}
