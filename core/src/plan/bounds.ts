/** Lower bounds of the loss of many combinations at once, cheap and proved. */
import { type Complex, complex, divide } from '../complex.ts'
import type { Chain, OperatingPoint } from '../chain/chain.ts'
import { referenceOf } from '../chain/chain.ts'
import { phaseUnknown, reflectionAt } from '../load/load.ts'
import { swrOf } from '../load/reflection.ts'
import { saturatedW } from '../source/amplifier.ts'
import { foldbackAt } from '../source/transmitter.ts'
import type { Cable } from '../line/cable.ts'
import { type Stage, writeStage } from '../stages/stage.ts'
import { type Abcd, newAbcd } from '../stages/twoPort.ts'
import { setTuner, throughTuner } from '../tuner/tuner.ts'
import { withCable } from '../stages/withCable.ts'

/** A section, and the cables that may stand in it; null is the one that does. */
export interface BoundSection {
  stage: number
  cables: readonly (Cable | null)[]
}

/**
 * For every combination (the last section changes fastest) no more than its loss from setting to antenna, dB.
 *
 * From the load toward the transmitter, impedance and efficiency are carried exactly, as long as every part is a known
 * two-port. A tuner with nothing variable behind it is set once, and is such a part. A tuner whose load varies takes
 * nothing, which no tuner does, and each part in front of it works at its largest efficiency over all loads; so does
 * every part where the antenna's phase is not known. An amplifier gives at most what it saturates at.
 */
export function lossBounds(
  chain: Chain,
  at: OperatingPoint,
  sections: readonly BoundSection[],
): Float64Array {
  const reference = referenceOf(chain)
  const count = sections.reduce((product, { cables }) => product * cables.length, 1)
  const out = new Float64Array(count)
  /** How many combinations one step of a section's choice is apart. */
  const stride = sections.map((_, s) =>
    sections.slice(s + 1).reduce((product, { cables }) => product * cables.length, 1),
  )
  const parts = chain.stages.map((stage, k) =>
    partOf(stage, k, at.frequencyHz, reference, sections),
  )

  const finish = (index: number, sourceW: number, efficiency: number) => {
    out[index] = 10 * Math.log10(at.powerW / (sourceW * efficiency))
  }
  /** Stages k and below are still to come; z is what stands behind stage k, null where it is not known. */
  const step = (k: number, z: Complex | null, efficiency: number, index: number): void => {
    if (k < 0) return finish(index, z ? drivenW(chain, at, z, reference) : at.powerW, efficiency)
    const part = parts[k]!
    if (part.kind === 'amplifier') return finishAll(k, saturatedW(part.stage) * efficiency, index)
    if (part.kind === 'tuner') {
      const fixed = z && !sections.some((section) => section.stage > k)
      if (!fixed) return step(k - 1, null, efficiency, index)
      const setting = setTuner(part.stage, z, at.frequencyHz, reference)
      if (setting.presents) return step(k - 1, null, efficiency, index)
      const pair = Float64Array.of(z.re, z.im, 1, 0)
      throughTuner(part.stage, setting, at.frequencyHz, reference, pair)
      return onward(k, pair, z, efficiency, index)
    }
    part.matrices.forEach(({ abcd, most }, choice) => {
      const next = part.section < 0 ? index : index + choice * stride[part.section]!
      if (!z) return step(k - 1, null, efficiency * most, next)
      onward(k, through(abcd, z), z, efficiency * Math.exp(-2 * abcd[8]!), next)
    })
  }
  const onward = (k: number, p: Float64Array, z: Complex, efficiency: number, index: number) => {
    const net = p[0]! * p[2]! + p[1]! * p[3]!
    // What lets no power through is left to the solver: a bound of no loss holds for anything.
    const share = net > 0 && z.re > 0 ? z.re / net : 0
    step(
      k - 1,
      divide(complex(p[0]!, p[1]), complex(p[2]!, p[3])),
      efficiency * Math.min(1, share),
      index,
    )
  }
  /** In front of an amplifier nothing that is chosen makes it give more than it can. */
  const finishAll = (k: number, watts: number, index: number) => {
    let indices = [index]
    sections.forEach(({ stage, cables }, s) => {
      if (stage < k) indices = indices.flatMap((i) => cables.map((_, c) => i + c * stride[s]!))
    })
    for (const i of indices) finish(i, watts, 1)
  }

  const unknownPhase = phaseUnknown(chain.load, at.frequencyHz)
  const rho = reflectionAt(chain.load, at.frequencyHz, reference)
  const z = divide(complex(1 + rho.re, rho.im), complex(1 - rho.re, -rho.im))
  const load = complex(z.re * reference, z.im * reference)
  step(
    chain.stages.length - 1,
    unknownPhase || !Number.isFinite(load.re + load.im) ? null : load,
    1,
    0,
  )
  return out
}

type Part =
  | { kind: 'tuner'; stage: Extract<Stage, { kind: 'tuner' }> }
  | { kind: 'amplifier'; stage: Extract<Stage, { kind: 'amplifier' }> }
  | { kind: 'twoPort'; section: number; matrices: { abcd: Abcd; most: number }[] }

function partOf(
  stage: Stage,
  k: number,
  frequencyHz: number,
  referenceOhm: number,
  sections: readonly BoundSection[],
): Part {
  if (!stage.bypassed && stage.kind === 'tuner') return { kind: 'tuner', stage }
  if (!stage.bypassed && stage.kind === 'amplifier') return { kind: 'amplifier', stage }
  const section = sections.findIndex((each) => each.stage === k)
  const cables = section < 0 ? [null] : sections[section]!.cables
  return {
    kind: 'twoPort',
    section,
    matrices: cables.map((cable) => {
      const abcd = newAbcd()
      writeStage(cable ? withCable(stage, cable) : stage, frequencyHz, referenceOhm, abcd)
      return { abcd, most: largestEfficiency(abcd) }
    }),
  }
}

/** Voltage and current in front of a two-port that 1 A at this impedance stands behind. */
function through(m: Abcd, z: Complex): Float64Array {
  return Float64Array.of(
    m[0]! * z.re - m[1]! * z.im + m[2]!,
    m[0]! * z.im + m[1]! * z.re + m[3]!,
    m[4]! * z.re - m[5]! * z.im + m[6]!,
    m[4]! * z.im + m[5]! * z.re + m[7]!,
  )
}

/**
 * Power out over power in of a passive two-port at its best load: |S21/S12|·(K − √(K² − 1)) with Rollett's K, which in
 * ABCD is Re(A·D* + B·C*)/|AD − BC|. (Pozar, Microwave Engineering, 12.2.)
 */
export function largestEfficiency(m: Abcd): number {
  // So lossy that the matrix was scaled: one is no tight bound, and it holds.
  if (m[8]! > 0) return 1
  const re = m[0]! * m[6]! - m[1]! * m[7]! - (m[2]! * m[4]! - m[3]! * m[5]!)
  const im = m[0]! * m[7]! + m[1]! * m[6]! - (m[2]! * m[5]! + m[3]! * m[4]!)
  const determinant = Math.hypot(re, im)
  const k =
    (m[0]! * m[6]! + m[1]! * m[7]! + (m[2]! * m[4]! + m[3]! * m[5]!)) /
    Math.max(determinant, 1e-300)
  if (!(k > 1)) return 1
  return Math.min(1, 1 / (k + Math.sqrt(k * k - 1)) / determinant)
}

/** What the transmitter gives into an impedance, W. */
function drivenW(
  { transmitter }: Chain,
  { powerW }: OperatingPoint,
  z: Complex,
  reference: number,
): number {
  const rho = Math.min(1, Math.hypot(z.re - reference, z.im) / Math.hypot(z.re + reference, z.im))
  const held = powerW * foldbackAt(transmitter.foldback, swrOf(rho))
  return transmitter.behaviour === 'peaked' ? held : held * (1 - rho * rho)
}
