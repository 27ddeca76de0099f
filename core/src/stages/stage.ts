import type { AmplifierStage } from '../source/amplifier.ts'
import type { TunerStage } from '../tuner/tuner.ts'
import { InputError } from '../errors.ts'
import { type LineStage, writeLine } from './line.ts'
import { type MeasuredStage, writeMeasured } from './measured.ts'
import { type PadStage, writePad } from './pad.ts'
import { type SeriesStage, writeSeries } from './series.ts'
import { type ShuntStage, writeShunt } from './shunt.ts'
import { type Abcd, writeThrough } from './twoPort.ts'

/** Stages whose matrix is known from themselves alone. */
type Model = LineStage | PadStage | SeriesStage | ShuntStage | MeasuredStage

/** One stage of a chain. A bypassed stage keeps its place and its planes but does nothing. */
export type Stage = (Model | TunerStage | AmplifierStage) & { bypassed?: boolean | undefined }
export type StageKind = Stage['kind']
type MatrixKind = Model['kind']

/** How each kind writes its matrix: a new kind is a file beside this one and a line here. */
const writers: {
  [K in MatrixKind]: (
    stage: Extract<Model, { kind: K }>,
    frequencyHz: number,
    referenceOhm: number,
    out: Abcd,
  ) => void
} = {
  line: (stage, hz, _reference, out) => writeLine(stage, hz, out),
  pad: writePad,
  series: (stage, hz, _reference, out) => writeSeries(stage, hz, out),
  shunt: (stage, hz, _reference, out) => writeShunt(stage, hz, out),
  measured: (stage, hz, _reference, out) => writeMeasured(stage, hz, out),
}

/**
 * The ABCD matrix of a stage at a frequency, written into `out`.
 *
 * @throws InputError for a tuner, whose matrix depends on what it is set for, and for an amplifier,
 *   which has none
 */
export function writeStage(
  stage: Stage,
  frequencyHz: number,
  referenceOhm: number,
  out: Abcd,
): void {
  if (stage.bypassed) return writeThrough(out)
  const write = writers[stage.kind as MatrixKind] as
    ((s: Stage, f: number, r: number, o: Abcd) => void) | undefined
  if (!write) throw opaque(stage)
  write(stage, frequencyHz, referenceOhm, out)
}

/** Why nobody can look through a tuner or an amplifier. */
export const opaque = ({ kind }: Stage): InputError =>
  new InputError(
    kind === 'tuner'
      ? 'A tuner hides what lies behind it: measure on its antenna side.'
      : 'An amplifier hides what lies behind it: measure at its output.',
  )
