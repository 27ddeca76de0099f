import { type Complex, complex, divide, magnitude } from '../complex.ts'
import { reflectionAt } from '../load/load.ts'
import { impedanceOf, reflectionOf } from '../load/reflection.ts'
import type { Stage } from '../stages/stage.ts'
import { ABCD_NUMBERS } from '../stages/twoPort.ts'
import type { TunerSetting, TunerStage } from '../tuner/kinds.ts'
import { setTuner, throughTuner } from '../tuner/tuner.ts'
import { newPhasors, newWaves, type Phasors, wavesAt } from './phasors.ts'
import { matricesOf, matrixAt, walk, writeMatrix } from './walk.ts'
import { settingsNow } from './tunerSettings.ts'
import { driveChain, newDrive } from './drive.ts'
import { type Chain, type OperatingPoint, referenceOf, type TunerSettings } from './chain.ts'

/** Forward power, W, and |ρ| at every plane. */
export interface PlaneWaves {
  forwardW: Float64Array
  rho: Float64Array
}

/** What a tuner that is set anew does to a load at its output. */
type Retuned = (impedanceOhm: Complex) => TunerSetting

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
  solve: (stages: readonly Stage[], reflection: Complex, powerW: number) => SolvedWaves
}

/** Waves, and whether every tuner found its match. */
export interface SolvedWaves extends PlaneWaves {
  matched: boolean
}

/**
 * Waves at every plane of a chain whose parts are varied a little. A tuner is set anew each time, as its operator would:
 * relays and tuners known by their loss exactly, networks by a table of exact settings that is filled as it is asked.
 */
export function fastWaves(chain: Chain, at: OperatingPoint): FastWaves {
  const reference = referenceOf(chain)
  const { frequencyHz } = at
  const reflection = reflectionAt(chain.load, frequencyHz, reference)
  const phasors = newPhasors(chain.stages.length)
  const settings = [...settingsNow(chain, at)]
  walk(chain.stages, frequencyHz, reference, reflection, phasors, settings)
  const tuners = new Map<Stage, Retuned>()
  for (const stage of chain.stages)
    if (stage.kind === 'tuner' && !stage.bypassed)
      tuners.set(
        stage,
        stage.method === 'network'
          ? networkTable(stage, frequencyHz, reference)
          : (z) => setTuner(stage, z, frequencyHz, reference),
      )
  const matrices = knownMatrices(chain.stages, frequencyHz, reference)
  const walkOver = (stages: readonly Stage[], load: Complex) => {
    const own = newPhasors(stages.length)
    const at = { frequencyHz, reference, matrices: matrices(stages) }
    const matched = walkRetuned(stages, load, own, tuners, at)
    return { own, matched }
  }
  const driven = (own: Phasors, powerW: number, stages = chain.stages) =>
    planeWaves({ ...chain, stages }, { ...at, powerW }, own)
  return {
    reflection,
    nominal: phasors,
    walked: (stages, load) => walkOver(stages, load).own,
    driven,
    solve(stages, load, powerW) {
      const { own, matched } = walkOver(stages, load)
      return { ...driven(own, powerW, stages), matched }
    },
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

/** Matrices of stages of which most are a chain's own: those are made once. */
function knownMatrices(
  known: readonly Stage[],
  frequencyHz: number,
  reference: number,
): (stages: readonly Stage[]) => Float64Array {
  const own = matricesOf(known, frequencyHz, reference)
  const indexOf = new Map(known.map((stage, k) => [stage, k]))
  return (stages) => {
    if (stages === known) return own
    const all = new Float64Array(ABCD_NUMBERS * stages.length)
    for (let k = 0; k < stages.length; k++) {
      const at = indexOf.get(stages[k]!)
      if (at === undefined) writeMatrix(stages[k]!, frequencyHz, reference, matrixAt(all, k))
      else all.set(matrixAt(own, at), ABCD_NUMBERS * k)
    }
    return all
  }
}

/** Walks leg by leg: every tuner is asked what it does to what lies behind it. @returns whether all of them match */
function walkRetuned(
  stages: readonly Stage[],
  load: Complex,
  out: Phasors,
  tuners: ReadonlyMap<Stage, Retuned>,
  {
    frequencyHz,
    reference,
    matrices,
  }: { frequencyHz: number; reference: number; matrices: Float64Array },
): boolean {
  const settings: TunerSettings = []
  let matched = true
  for (let k = stages.length - 1; k >= 0; k--) {
    const own = tuners.get(stages[k]!)
    if (!own) continue
    // Walking a part of the way is cheap beside setting the tuner.
    const behind = newPhasors(stages.length - k - 1)
    walk(
      stages.slice(k + 1),
      frequencyHz,
      reference,
      load,
      behind,
      settings.slice(k + 1),
      matrices.subarray(ABCD_NUMBERS * (k + 1)),
    )
    const z = divide(complex(behind[0]!, behind[1]), complex(behind[2]!, behind[3]))
    settings[k] = own(z)
    matched &&= settings[k]!.matched
  }
  walk(stages, frequencyHz, reference, load, out, settings, matrices)
  return matched
}

/** Steps of the table, in ½·ln SWR: an SWR of 1.2 from one to the next, */
const TABLE_STEP = 0.1
/** and so many times finer where only a part of a cell is matched, */
const FINER = 4
/** and there once more. */
const FINEST = 2
/** Beyond this ½·ln SWR (SWR 400) a setting is looked for itself. */
const TABLE_MOST = 3

interface TableEntry {
  lossDb: number
  /** What it presents, |ρ| at an angle. */
  presents: Complex
  matched: boolean
}

/**
 * What a network of knobs does to a load, from exact settings on a grid over the plane of the reflection, whose radius is
 * stretched to ½·ln SWR: loss and what is presented are taken between four of them. Where some of the four are matched and
 * others are not, a finer grid is asked. It is filled as it is asked, all round the circle where the load’s phase is unknown.
 */
function networkTable(stage: TunerStage, hz: number, reference: number): Retuned {
  const known = Array.from({ length: FINEST + 1 }, () => new Map<number, TableEntry>())
  const entry = (i: number, k: number, level: number): TableEntry => {
    const key = i * 65536 + k
    const before = known[level]!.get(key)
    if (before) return before
    const step = TABLE_STEP / FINER ** level
    const radius = Math.hypot(i, k) * step
    const size = radius > 0 ? Math.tanh(Math.min(radius, TABLE_MOST + 1)) / radius : 0
    const rho = complex(i * step * size, k * step * size)
    const made = exact(impedanceOf(rho, reference))
    known[level]!.set(key, made)
    return made
  }
  const exact = (z: Complex): TableEntry => {
    const setting = setTuner(stage, z, hz, reference)
    const { lossDb, matched } = setting
    if (matched) return { lossDb, matched, presents: complex(setting.rho) }
    const p = Float64Array.of(z.re, z.im, 1, 0)
    throughTuner(stage, setting, hz, reference, p)
    const seen = divide(complex(p[0]!, p[1]), complex(p[2]!, p[3]))
    return { lossDb, matched, presents: reflectionOf(seen, reference) }
  }
  /** Between four entries, at a place in the stretched plane. */
  const between = (x: number, y: number, level: number): TableEntry => {
    const finer = FINER ** level / TABLE_STEP
    const [i, k] = [Math.floor(x * finer), Math.floor(y * finer)]
    const [fx, fy] = [x * finer - i, y * finer - k]
    let lossDb = 0
    let re = 0
    let im = 0
    let share = 0
    let matching = 0
    for (const [di, dk] of CORNERS) {
      const weight = (di ? fx : 1 - fx) * (dk ? fy : 1 - fy)
      const corner = entry(i + di, k + dk, level)
      lossDb += weight * corner.lossDb
      re += weight * corner.presents.re
      im += weight * corner.presents.im
      if (corner.matched) {
        share += weight
        matching++
      }
    }
    if (matching > 0 && matching < CORNERS.length && level < FINEST) return between(x, y, level + 1)
    return { lossDb, presents: complex(re, im), matched: share >= 0.5 }
  }
  return (z) => {
    const rho = reflectionOf(z, reference)
    const size = magnitude(rho)
    const radius = Math.atanh(size)
    const stretch = size > 0 ? radius / size : 1
    const own = radius < TABLE_MOST ? between(rho.re * stretch, rho.im * stretch, 0) : exact(z)
    return { ...own, elements: [], rho: magnitude(own.presents) }
  }
}

const CORNERS = [
  [0, 0],
  [0, 1],
  [1, 0],
  [1, 1],
] as const
