/**
 * Stations drawn to try what is read off sweeps: cables, joints and antennas within what is known of them, and an analyser
 * whose errors are not those that the fit takes them for: its directivity turns with frequency, its tracking slopes, its
 * noise grows. What it shows is worked out by the solver, not by the fit.
 */
import {
  type Chain,
  cableClasses,
  complex,
  expectedSweep,
  type FarEnd,
  lineConstants,
  type Load,
  matchedLossDb,
  REFERENCE_OHM,
  type Reflections,
  seeded,
  type Stage,
  usualTolerances,
} from '../src/index.ts'
import { variedStages } from '../src/chain/variedStages.ts'
import { divide, multiply, subtract } from '../src/complex.ts'
import { normal, pick } from '../src/statistics/random.ts'

export interface SweptStation {
  /** As it is written down. */
  chain: Chain
  farEnd: FarEnd
  sweep: Reflections
  truth: {
    /** By stage of what is written down. */
    lines: Map<number, { lengthM: number; lossDb: number }>
    /** By the stage behind them; reactance in the middle of the sweep. */
    joints: Map<number, { rOhm: number; xOhm: number }>
    resonanceHz: number | null
  }
}

export interface Drawing {
  /** Errors of the analyser, |ρ|. */
  analyser: number
  /** Series resistance of a joint that is bad, Ω; none where it is left out. */
  badJointOhm?: number
}

/** Shapes of chains, from the analyser to the antenna: lengths of cable, and 0 for a connector. */
const shapes: readonly (readonly number[])[] = [
  [0, 24, 0],
  [2, 0, 31, 0],
  [0, 6, 0, 45],
  [1.5, 0, 18, 0, 7, 0],
  [0, 62, 0, 9, 0],
]

export function drawSwept(seed: number, { analyser, badJointOhm }: Drawing): SweptStation {
  const random = seeded(seed)
  const between = (low: number, high: number) => low + (high - low) * random()
  const coaxial = cableClasses.filter(({ z0Ohm }) => Math.abs(z0Ohm - 50) < 3)
  const stages = pick(random, shapes).map((lengthM): Stage => {
    const cable = pick(random, coaxial)
    return lengthM > 0
      ? { kind: 'line', lengthM: lengthM * between(0.7, 1.4), cable }
      : { kind: 'pad', lossDb: between(0.02, 0.15), atHz: 30e6 }
  })
  const topHz = pick(random, [30e6, 60e6, 180e6])
  const lowHz = pick(random, [1e6, topHz / 4])
  const middleHz = (lowHz + topHz) / 2
  const farEnd = pick<FarEnd>(random, ['antenna', 'antenna', 'open', 'short', 'load'])
  const resonanceHz = between(lowHz * 1.3, topHz * 0.8)
  const load: Load = { kind: 'resonator', resonanceHz, rOhm: between(30, 110), q: between(4, 18) }
  const chain: Chain = { transmitter: { behaviour: 'levelled', foldback: [] }, stages, load }

  const varied = variedStages(stages)
  varied.draw(usualTolerances, random)
  const joints: SweptStation['truth']['joints'] = new Map()
  // Wherever a cable meets something: the analyser, a part, the antenna.
  const atJoint = stages.flatMap((_, k) => (k === 0 || stages[k - 1]!.kind === 'line' ? [k] : []))
  if (stages.at(-1)!.kind === 'line') atJoint.push(stages.length)
  // Behind the last cable it would be the antenna's.
  const lastLine = stages.findLastIndex(({ kind }) => kind === 'line')
  const inner = atJoint.filter((k) => k > 0 && k <= lastLine)
  const bad = badJointOhm === undefined ? -1 : pick(random, inner.length > 0 ? inner : [-1])
  const real: Stage[] = []
  for (let k = 0; k <= stages.length; k++) {
    if (atJoint.includes(k)) {
      const rOhm = k === bad ? badJointOhm! : Math.abs(0.1 * normal(random))
      const xOhm = 0.5 * normal(random)
      joints.set(k, { rOhm, xOhm })
      real.push({ kind: 'series', rOhm, xOhm: Math.max(0, xOhm), atHz: middleHz })
      // Too little inductance is too much capacitance across: X = −Z₀²·ωC.
      if (xOhm < 0)
        real.push({ kind: 'shunt', rOhm: 0, xOhm: REFERENCE_OHM ** 2 / xOhm, atHz: middleHz })
    }
    if (k < stages.length) real.push(varied.stages[k]!)
  }
  const moved = {
    ...load,
    resonanceHz: resonanceHz * (1 + 0.01 * normal(random)),
    q: load.q * (1 + 0.08 * normal(random)),
    rOhm: load.rOhm * (1 + 0.08 * normal(random)),
  }
  const points = pick(random, [101, 201, 401])
  const hz = Float64Array.from(
    { length: points },
    (_, i) => lowHz + ((topHz - lowHz) * i) / (points - 1),
  )
  const seen = expectedSweep({ ...chain, stages: real, load: moved }, 0, hz, farEnd)
  const lines: SweptStation['truth']['lines'] = new Map()
  varied.stages.forEach((stage, k) => {
    if (stage.kind === 'line')
      lines.set(k, {
        lengthM: stage.lengthM,
        lossDb: matchedLossDb(lineConstants(stage.cable, middleHz), stage.lengthM),
      })
  })
  return {
    ...{ chain, farEnd, sweep: shownBy(analyser, seen, random) },
    truth: { lines, joints, resonanceHz: farEnd === 'antenna' ? moved.resonanceHz : null },
  }
}

/** What an analyser shows of what is there. */
function shownBy(error: number, { frequencyHz, re, im }: Reflections, random: () => number) {
  const n = frequencyHz.length
  const part = () => {
    const size = error * Math.abs(normal(random)) * 0.7
    const angle = 2 * Math.PI * random()
    // Some centimetres of leads behind what it was calibrated with.
    const delayS = 0.6e-9 * random()
    return (hz: number) => {
      const phase = angle + 2 * Math.PI * hz * delayS
      return complex(size * Math.cos(phase), size * Math.sin(phase))
    }
  }
  const [directivity, tracking, match] = [part(), part(), part()]
  const out = { frequencyHz, re: new Float64Array(n), im: new Float64Array(n) }
  for (let k = 0; k < n; k++) {
    const hz = frequencyHz[k]!
    const rho = complex(re[k]!, im[k]!)
    const below = subtract(complex(1), multiply(match(hz), rho))
    const gain = tracking(hz)
    const seen = divide(multiply(complex(1 + gain.re, gain.im), rho), below)
    const noise = 0.1 * error * (1 + k / n)
    const d = directivity(hz)
    out.re[k] = seen.re + d.re + noise * normal(random)
    out.im[k] = seen.im + d.im + noise * normal(random)
  }
  return out
}
