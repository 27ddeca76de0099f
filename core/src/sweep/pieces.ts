/** The figures of a chain that a sweep may say something of, and the pieces of the way that they belong to. */
import type { Tolerances } from '../chain/tolerances.ts'
import { lossTolerance } from '../stages/line.ts'
import { type Stage, writeStage } from '../stages/stage.ts'
import { type Abcd, writeThrough } from '../stages/twoPort.ts'

/** What a figure is. Shares are of what is written down; 0 leaves everything as it is written. */
export type FigureKind =
  | 'length'
  | 'loss'
  /** Of a joint in front of a stage, Ω; its reactances in the middle of the sweep, in series and by a capacitance across. */
  | 'resistance'
  | 'reactance'
  | 'capacitance'
  /** Loss at a joint that belongs to no part, dB. */
  | 'extra'
  /** Of the antenna: shares of its frequencies, its Q, its resistance; what is added to its reflection. */
  | 'shift'
  | 'q'
  | 'ohm'
  | 'offRe'
  | 'offIm'
  /** Of the analyser: directivity, tracking, source match. */
  | 'analyser'

export interface Figure {
  kind: FigureKind
  /** From the plane on; of a joint, the stage behind it, or how many there are for that at the antenna. */
  stage: number | null
  deviation: number
}

/** A good joint, by practice: a tenth of an ohm, half an ohm of reactance in the middle of a sweep, and 0.02 dB. */
const JOINT_OHM = 0.1
const JOINT_REACTANCE_OHM = 0.5
const JOINT_DB = 0.02
/** A little less than nothing, so that nothing is not at an edge. */
const LEAST_OHM = -1
const LEAST_DB = -0.2
/** Nothing is less of what is written down than this share. */
const LEAST_SHARE = 0.02
/** Notes a figure, and gives its index. */
export type NewFigure = (kind: FigureKind, stage: number | null, deviation: number) => number

/** A share of what is written down, added to it. */
export const scaled = (share: number) => Math.max(LEAST_SHARE, 1 + share)

/**
 * A joint that reflects: a resistance and an inductance in series that do not belong there, Ω, and a capacitance across: by what
 * it looks like between matched ends, X = −Z₀²·ωC. Between others the two differ: at a shorted end C does nothing.
 */
export interface Joint {
  kind: 'joint'
  rOhm: number
  seriesOhmPerHz: number
  acrossOhmPerHz: number
}

/** One piece of the way: a stage or a joint, of its own figures. */
export interface Piece {
  own: number[]
  part: (values: readonly number[]) => Stage | Joint
}

/** The matrix of a stage or of a joint at a frequency, Hz, written into `out`; see `writeStage`. */
export function writePart(part: Stage | Joint, hz: number, reference: number, out: Abcd): void {
  if (part.kind !== 'joint') return writeStage(part, hz, reference, out)
  const x = part.seriesOhmPerHz * hz
  const b = (-part.acrossOhmPerHz * hz) / reference ** 2
  writeThrough(out)
  out[0] = 1 - x * b
  out[1] = part.rOhm * b
  out[2] = part.rOhm
  out[3] = x
  out[5] = b
}

/** Whether a part is the same on every frequency. */
export const steady = (part: Stage | Joint): boolean =>
  part.kind === 'pad' && !part.bypassed && part.atHz === undefined && !part.points?.length

/**
 * Joints of some stages as a sweep tells them apart: the planes of each stand at one place of the line, `from` … `to`, since
 * no cable lies between them.
 */
export function jointsOf(stages: readonly Stage[]): { from: number; to: number }[] {
  const joints = [{ from: 0, to: 0 }]
  stages.forEach((stage, k) => {
    if (stage.kind === 'line' && !stage.bypassed && stage.lengthM > 0)
      joints.push({ from: k + 1, to: k + 1 })
    else joints.at(-1)!.to = k + 1
  })
  return joints
}

/** Stages with the figures that a sweep may say something of, and a joint at the begin of each place. */
export function piecesOf(
  stages: readonly Stage[],
  tolerances: Tolerances,
  middleHz: number,
  figure: NewFigure,
): Piece[] {
  const joints = new Set(jointsOf(stages).map(({ from }) => from))
  const pieces: Piece[] = []
  for (let k = 0; k <= stages.length; k++) {
    if (joints.has(k))
      pieces.push(
        {
          own: [
            figure('resistance', k, JOINT_OHM),
            figure('reactance', k, JOINT_REACTANCE_OHM),
            figure('capacitance', k, JOINT_REACTANCE_OHM),
          ],
          part: ([rOhm, series, across]) => ({
            kind: 'joint',
            rOhm: Math.max(LEAST_OHM, rOhm!),
            seriesOhmPerHz: series! / middleHz,
            acrossOhmPerHz: across! / middleHz,
          }),
        },
        {
          own: [figure('extra', k, JOINT_DB)],
          part: ([lossDb]) => ({ kind: 'pad', lossDb: Math.max(LEAST_DB, lossDb!) }),
        },
      )
    const stage = stages[k]
    if (stage && !stage.bypassed) pieces.push(pieceOf(stage, k, tolerances, figure))
  }
  return pieces
}

function pieceOf(stage: Stage, k: number, tolerances: Tolerances, figure: NewFigure): Piece {
  if (stage.kind === 'line')
    return {
      own: [
        figure('length', k, tolerances.length / 2),
        figure('loss', k, lossTolerance(stage, tolerances) / 2),
      ],
      part: ([length, loss]) => ({
        ...stage,
        lengthM: stage.lengthM * scaled(length!),
        cable: {
          ...stage.cable,
          k1DbPer100m: stage.cable.k1DbPer100m * scaled(loss!),
          k2DbPer100m: stage.cable.k2DbPer100m * scaled(loss!),
        },
      }),
    }
  if (stage.kind === 'pad' && !stage.points && stage.lossDb > 0)
    return {
      own: [figure('loss', k, tolerances.parts / 2)],
      part: ([loss]) => ({ ...stage, lossDb: stage.lossDb * scaled(loss!) }),
    }
  return { own: [], part: () => stage }
}
