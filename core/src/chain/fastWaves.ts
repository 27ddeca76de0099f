import { type Complex, complex, divide, magnitude } from '../complex.ts'
import { reflectionAt } from '../load/load.ts'
import { impedanceOf, reflectionOf } from '../load/reflection.ts'
import type { Stage } from '../stages/stage.ts'
import { even, seeded } from '../statistics/random.ts'
import type { TunerSetting, TunerStage } from '../tuner/kinds.ts'
import { setTuner } from '../tuner/tuner.ts'
import { newPhasors, newWaves, type Phasors, wavesAt } from './phasors.ts'
import { walk } from './walk.ts'
import { settingsNow } from './tunerSettings.ts'
import { driveChain, newDrive } from './drive.ts'
import { type Chain, type OperatingPoint, referenceOf, type TunerSettings } from './chain.ts'

/** Forward power, W, and |ρ| at every plane. */
export interface PlaneWaves {
  forwardW: Float64Array
  rho: Float64Array
}

/** What a tuner that is set anew does to any load near the one it was built for. */
type Retuned = (load: Complex) => TunerSetting

/** Solves one operating point again and again, for chains that differ a little from each other. */
export interface FastWaves {
  reflection: Complex
  /** Phasors of the chain as it stands. */
  nominal: Phasors
  /** `stages` are the chain’s own, or take their place with the tuners as they are. */
  walked: (stages: readonly Stage[], reflection: Complex) => Phasors
  /** What a source of this power makes of phasors that were walked over the chain’s own stages, or over others. */
  driven: (phasors: Phasors, powerW: number, stages?: readonly Stage[]) => PlaneWaves
  /** Both at once. */
  solve: (stages: readonly Stage[], reflection: Complex, powerW: number) => PlaneWaves
}

/** Tries around a load from which a tuner's loss is learnt. */
const TRIES = 36
/** How far they go, |ρ|. */
const REACH = 0.25

/**
 * Waves at every plane of a chain whose parts are varied a little. A tuner is set anew each time, as its
 * operator would: it presents what it presents now, and its loss follows a quadratic surface through exact
 * settings around the load it meets now. A tuner that does not match is held as it stands.
 */
export function fastWaves(chain: Chain, at: OperatingPoint): FastWaves {
  const reference = referenceOf(chain)
  const { frequencyHz } = at
  const reflection = reflectionAt(chain.load, frequencyHz, reference)
  const now = settingsNow(chain, at)
  const phasors = newPhasors(chain.stages.length)
  walk(chain.stages, frequencyHz, reference, reflection, phasors, [...now])
  const tuners = new Map<Stage, Retuned>()
  chain.stages.forEach((stage, k) => {
    if (stage.kind !== 'tuner' || stage.bypassed || !now[k]) return
    const o = 4 * (k + 1)
    const z = divide(
      complex(phasors[o]!, phasors[o + 1]!),
      complex(phasors[o + 2]!, phasors[o + 3]!),
    )
    tuners.set(stage, retuned(stage, now[k], reflectionOf(z, reference), frequencyHz, reference))
  })
  const walked = (stages: readonly Stage[], load: Complex): Phasors => {
    const own = newPhasors(stages.length)
    walkRetuned(stages, frequencyHz, reference, load, own, tuners)
    return own
  }
  const driven = (own: Phasors, powerW: number, stages = chain.stages) =>
    planeWaves({ ...chain, stages }, { ...at, powerW }, own)
  return {
    reflection,
    nominal: phasors,
    walked,
    driven,
    solve: (stages, load, powerW) => driven(walked(stages, load), powerW, stages),
  }
}

/** Forward power and |ρ| at every plane of phasors that were walked, driven by the chain's source. */
export function planeWaves(chain: Chain, at: OperatingPoint, phasors: Phasors): PlaneWaves {
  const drive = newDrive(chain.stages.length)
  driveChain(chain, phasors, at, drive)
  const forwardW = new Float64Array(chain.stages.length + 1)
  const rho = new Float64Array(chain.stages.length + 1)
  const waves = newWaves()
  for (let k = 0; k <= chain.stages.length; k++) {
    wavesAt(phasors, k, referenceOf(chain), waves)
    forwardW[k] = waves.forward * drive.scale[k]!
    rho[k] = waves.rho
  }
  return { forwardW, rho }
}

/** Walks leg by leg: every tuner is asked what it does to what lies behind it. */
function walkRetuned(
  stages: readonly Stage[],
  hz: number,
  reference: number,
  load: Complex,
  out: Float64Array,
  tuners: Map<Stage, Retuned>,
): void {
  const settings: TunerSettings = []
  for (let k = stages.length - 1; k >= 0; k--) {
    const own = tuners.get(stages[k]!)
    if (!own) continue
    // Walking a part of the way is cheap beside setting the tuner.
    const behind = newPhasors(stages.length - k - 1)
    walk(stages.slice(k + 1), hz, reference, load, behind, settings.slice(k + 1))
    const z = divide(complex(behind[0]!, behind[1]), complex(behind[2]!, behind[3]))
    settings[k] = own(reflectionOf(z, reference))
  }
  walk(stages, hz, reference, load, out, settings)
}

function retuned(
  stage: TunerStage,
  now: TunerSetting,
  centre: Complex,
  hz: number,
  reference: number,
): Retuned {
  if (!now.matched || stage.method === 'given') return () => now
  const random = seeded(1)
  const rows: number[][] = []
  const losses: number[] = []
  for (let i = 0; i < TRIES; i++) {
    const x = i === 0 ? 0 : even(random) * REACH
    const y = i === 0 ? 0 : even(random) * REACH
    const rho = complex(centre.re + x, centre.im + y)
    if (magnitude(rho) > 0.97) continue
    const setting = setTuner(stage, impedanceOf(rho, reference), hz, reference)
    if (!setting.matched) continue
    rows.push([1, x, y, x * x, x * y, y * y])
    losses.push(setting.lossDb)
  }
  const surface = rows.length >= 12 ? leastSquares(rows, losses) : [now.lossDb]
  const presents = complex(now.rho)
  return (rho) => {
    const x = clamp(rho.re - centre.re)
    const y = clamp(rho.im - centre.im)
    const [c = 0, a = 0, b = 0, aa = 0, ab = 0, bb = 0] = surface
    const lossDb = Math.max(0, c + a * x + b * y + aa * x * x + ab * x * y + bb * y * y)
    return { elements: [], rho: now.rho, lossDb, matched: true, presents }
  }
}

const clamp = (v: number): number => Math.min(REACH, Math.max(-REACH, v))

/** Coefficients of the least-squares plane through rows of equal length, by the normal equations. */
function leastSquares(rows: readonly number[][], values: readonly number[]): number[] {
  const n = rows[0]!.length
  const a = Array.from({ length: n }, (_, i) => [
    ...Array.from({ length: n }, (_, j) => rows.reduce((s, row) => s + row[i]! * row[j]!, 0)),
    rows.reduce((s, row, r) => s + row[i]! * values[r]!, 0),
  ])
  for (let i = 0; i < n; i++) {
    const pivot = a
      .slice(i)
      .reduce((best, row) => (Math.abs(row[i]!) > Math.abs(best[i]!) ? row : best))
    a.splice(a.indexOf(pivot), 1)
    a.splice(i, 0, pivot)
    for (let r = 0; r < n; r++) {
      if (r === i || pivot[i] === 0) continue
      const f = a[r]![i]! / pivot[i]!
      for (let c = i; c <= n; c++) a[r]![c]! -= f * pivot[c]!
    }
  }
  return a.map((row, i) => (row[i] ? row[n]! / row[i]! : 0))
}
