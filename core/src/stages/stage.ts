import type { AmplifierStage } from '../source/amplifier.ts'
import type { TunerStage } from '../tuner/kinds.ts'
import { InputError } from '../errors.ts'
import { amplifierModel } from './amplifier.ts'
import { duplexerModel, type DuplexerStage } from './duplexer.ts'
import { isolatorModel, type IsolatorStage } from './isolator.ts'
import { lineModel, type LineStage } from './line.ts'
import { measuredModel, type MeasuredStage } from './measured.ts'
import type { StageModel } from './model.ts'
import { padModel, type PadStage } from './pad.ts'
import { seriesModel, type SeriesStage } from './series.ts'
import { shuntModel, type ShuntStage } from './shunt.ts'
import { stubModel, type StubStage } from './stub.ts'
import { transformerModel, type TransformerStage } from './transformer.ts'
import { tunerModel } from './tuner.ts'
import { type Abcd, writeThrough } from './twoPort.ts'

type Kinds =
  | LineStage
  | PadStage
  | SeriesStage
  | ShuntStage
  | TransformerStage
  | StubStage
  | IsolatorStage
  | DuplexerStage
  | MeasuredStage
  | TunerStage
  | AmplifierStage

/** One stage of a chain. A bypassed stage keeps its place and its planes but does nothing. */
export type Stage = Kinds & { bypassed?: boolean | undefined }
export type StageKind = Stage['kind']

/** All kinds of stages: a new one is a file beside this one, a line above and a line here. */
const models: { [K in StageKind]: StageModel<Extract<Kinds, { kind: K }>> } = {
  line: lineModel,
  pad: padModel,
  series: seriesModel,
  shunt: shuntModel,
  transformer: transformerModel,
  stub: stubModel,
  isolator: isolatorModel,
  duplexer: duplexerModel,
  measured: measuredModel,
  tuner: tunerModel,
  amplifier: amplifierModel,
}

/**
 * Checks, matrix and tolerances of a stage of any kind.
 *
 * @internal
 */
export const modelOf = ({ kind }: Pick<Stage, 'kind'>): StageModel<Stage> =>
  models[kind] as StageModel<Stage>

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
  const { write } = modelOf(stage)
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
