/** The stages of a chain: a new kind is a file in stages/ and two lines here. */
import { z } from 'zod'
import { amplifierStageSchema } from './stages/amplifier.ts'
import { duplexerStageSchema } from './stages/duplexer.ts'
import { isolatorStageSchema } from './stages/isolator.ts'
import { lineStageSchema } from './stages/line.ts'
import { measuredStageSchema } from './stages/measured.ts'
import { padStageSchema } from './stages/pad.ts'
import { seriesStageSchema } from './stages/series.ts'
import { shuntStageSchema } from './stages/shunt.ts'
import { stubStageSchema } from './stages/stub.ts'
import { transformerStageSchema } from './stages/transformer.ts'
import { tunerStageSchema } from './stages/tuner.ts'

export * from './stages/amplifier.ts'
export * from './stages/base.ts'
export * from './stages/duplexer.ts'
export * from './stages/figure.ts'
export * from './stages/isolator.ts'
export * from './stages/line.ts'
export * from './stages/measured.ts'
export * from './stages/pad.ts'
export * from './stages/series.ts'
export * from './stages/shunt.ts'
export * from './stages/stub.ts'
export * from './stages/transformer.ts'
export * from './stages/tuner.ts'

export const stageSchema = z
  .discriminatedUnion('kind', [
    lineStageSchema,
    padStageSchema,
    seriesStageSchema,
    shuntStageSchema,
    transformerStageSchema,
    stubStageSchema,
    measuredStageSchema,
    isolatorStageSchema,
    duplexerStageSchema,
    tunerStageSchema,
    amplifierStageSchema,
  ])
  .meta({ id: 'Stage' })
export type StageDocument = z.infer<typeof stageSchema>
