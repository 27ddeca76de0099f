import type { Cable } from '../line/cable.ts'
import { emptyLineConstants, lineConstants } from '../line/constants.ts'
import { type Abcd, hyperbolic } from './twoPort.ts'

/** A section of coaxial cable. */
export interface LineStage {
  kind: 'line'
  lengthM: number
  cable: Cable
}

const scratch = emptyLineConstants()
const hyper = new Float64Array(2)

/** [cosh γℓ, Zc·sinh γℓ; sinh γℓ/Zc, cosh γℓ]. */
export function writeLine(stage: LineStage, frequencyHz: number, out: Abcd): void {
  const { alpha, beta, zcRe, zcIm } = lineConstants(stage.cable, frequencyHz, scratch)
  hyperbolic(alpha * stage.lengthM, hyper)
  const cosh = hyper[0]!
  const sinh = hyper[1]!
  const bl = beta * stage.lengthM
  const cos = Math.cos(bl)
  const sin = Math.sin(bl)
  const coshRe = cosh * cos
  const coshIm = sinh * sin
  const sinhRe = sinh * cos
  const sinhIm = cosh * sin
  const zc2 = zcRe * zcRe + zcIm * zcIm
  out[0] = coshRe
  out[1] = coshIm
  out[2] = zcRe * sinhRe - zcIm * sinhIm
  out[3] = zcRe * sinhIm + zcIm * sinhRe
  out[4] = (sinhRe * zcRe + sinhIm * zcIm) / zc2
  out[5] = (sinhIm * zcRe - sinhRe * zcIm) / zc2
  out[6] = coshRe
  out[7] = coshIm
}
