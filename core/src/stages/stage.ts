import { type LineStage, writeLine } from './line.ts'
import { type MeasuredStage, writeMeasured } from './measured.ts'
import { type PadStage, writePad } from './pad.ts'
import { type SeriesStage, writeSeries } from './series.ts'
import { type ShuntStage, writeShunt } from './shunt.ts'
import { type Abcd, writeThrough } from './twoPort.ts'

type Model = LineStage | PadStage | SeriesStage | ShuntStage | MeasuredStage

/** One stage of a chain. A bypassed stage keeps its place and its planes but does nothing. */
export type Stage = Model & { bypassed?: boolean | undefined }
export type StageKind = Stage['kind']

/** How each kind writes its matrix: a new kind is a file beside this one and a line here. */
const writers: {
  [K in StageKind]: (
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

/** The ABCD matrix of a stage at a frequency, written into `out`. */
export function writeStage(
  stage: Stage,
  frequencyHz: number,
  referenceOhm: number,
  out: Abcd,
): void {
  if (stage.bypassed) return writeThrough(out)
  const write = writers[stage.kind] as (s: Stage, f: number, r: number, o: Abcd) => void
  write(stage, frequencyHz, referenceOhm, out)
}
