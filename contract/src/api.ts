/** Bodies of the HTTP interface. */
import { z } from 'zod'
import { chainDocumentSchema } from './chain.ts'
import { frequencyHz, powerW, timestamp } from './fields.ts'
import { idSchema } from './ids.ts'
import { modes } from './source.ts'
import { line } from './text.ts'

export const chainStateSchema = z
  .object({
    id: idSchema,
    stationId: idSchema,
    revision: z.int(),
    /** Within it revisions are counted: a restored backup begins another. */
    epoch: z.string().default(''),
    savedAt: timestamp,
    canUndo: z.boolean(),
    canRedo: z.boolean(),
    document: chainDocumentSchema,
  })
  .meta({ id: 'ChainState' })
export type ChainState = z.infer<typeof chainStateSchema>

const baseRevision = z.int().min(0)
/** Of the base revision, as it came with it. */
const epoch = line('An epoch', 32).default('')

export const saveChainSchema = z
  .object({
    /** The revision that was edited; a save on any other is a conflict. */
    baseRevision,
    epoch,
    document: chainDocumentSchema,
    /** What was changed, in a few words. */
    summary: line('What was changed', 120).default(''),
    /** Chosen by the sender: the same save sent twice, since its answer was lost, is kept once. */
    key: line('A key', 64).min(8, 'A key has at least 8 characters.').optional(),
  })
  .meta({ id: 'SaveChain' })
export type SaveChain = z.input<typeof saveChainSchema>

export const stepSchema = z.object({ baseRevision, epoch }).meta({ id: 'RevisionStep' })

export const revisionSummarySchema = z
  .object({
    revision: z.int(),
    parent: z.int().nullable(),
    summary: z.string(),
    savedAt: timestamp,
    /** True for the second of two edits that met: kept, but never current. */
    aside: z.boolean(),
  })
  .meta({ id: 'RevisionSummary' })
export type RevisionSummary = z.infer<typeof revisionSummarySchema>

export const solveRequestSchema = z
  .object({
    document: chainDocumentSchema,
    frequencyHz,
    powerW,
    /** Amplifiers have ceilings by mode. */
    mode: z.enum(modes).optional(),
    /** Where tuners with knobs were set; on this frequency unless it is given. */
    tunedHz: frequencyHz.optional(),
  })
  .meta({ id: 'SolveRequest' })

const complexSchema = z.object({ re: z.number().nullable(), im: z.number().nullable() })
const rangeSchema = z.object({ low: z.number().nullable(), high: z.number().nullable() })
const extremeSchema = z.object({ value: z.number(), fromLoadM: z.number() })

/** Figures that can be infinite (SWR of an open line) are null in JSON. */
export const planeSchema = z
  .object({
    impedanceOhm: complexSchema,
    reflection: complexSchema,
    swr: z.number().nullable(),
    forwardW: z.number(),
    reflectedW: z.number(),
    netW: z.number(),
    voltage: complexSchema,
    current: complexSchema,
    voltageRms: z.number(),
    currentRms: z.number(),
  })
  .meta({ id: 'Plane' })

export const solutionSchema = z
  .object({
    frequencyHz: z.number(),
    settingW: z.number(),
    foldback: z.number(),
    transmitterNetW: z.number(),
    antennaW: z.number(),
    chainLossDb: z.number().nullable(),
    planes: z.array(planeSchema),
    stages: z.array(
      z.object({
        lossW: z.number(),
        lossDb: z.number().nullable(),
        line: z
          .object({
            matchedLossDb: z.number(),
            maxVoltageRms: extremeSchema,
            maxCurrentRms: extremeSchema,
            maxHeatWPerM: extremeSchema,
            extrapolated: z.boolean(),
          })
          .optional(),
        tuner: z
          .object({
            matched: z.boolean(),
            reason: z.string().optional(),
            swrIn: z.number().nullable(),
            swrOut: z.number().nullable(),
            /** From the transmitter's side; values in H or F, stresses RMS at PEP. */
            elements: z.array(
              z.object({
                place: z.enum(['series', 'shunt']),
                part: z.enum(['coil', 'capacitor']),
                value: z.number(),
                reactanceOhm: z.number().nullable(),
                voltageRms: z.number(),
                currentRms: z.number(),
                lossW: z.number(),
              }),
            ),
          })
          .optional(),
        amplifier: z
          .object({
            driveW: z.number(),
            outputW: z.number(),
            foldback: z.number(),
            ceilingW: z.number(),
            mostDriveW: z.number().nullable(),
            overdriven: z.boolean(),
            cure: z.object({ turnDownToW: z.number(), padDb: z.number().nullable() }).optional(),
            trips: z
              .object({
                by: z.enum(['SWR', 'reflected power']),
                value: z.number().nullable(),
                limit: z.number(),
              })
              .optional(),
          })
          .optional(),
      }),
    ),
  })
  .meta({ id: 'Solution' })

export const solveResponseSchema = z
  .object({
    solution: solutionSchema,
    /** Ranges over all phases where only the antenna's SWR is known, else null. */
    spread: z
      .object({
        antennaW: rangeSchema,
        transmitterNetW: rangeSchema,
        planes: z.array(
          z.object({
            netW: rangeSchema,
            swr: rangeSchema,
            forwardW: rangeSchema,
            reflectedW: rangeSchema,
            voltageRms: rangeSchema,
          }),
        ),
        stages: z.array(z.object({ lossW: rangeSchema, lossDb: rangeSchema })),
      })
      .nullable(),
  })
  .meta({ id: 'SolveResponse' })

/** RFC 9457 problem details; `errors` point into the body as JSON pointers (RFC 6901). */
export const problemSchema = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.int(),
    detail: z.string().optional(),
    errors: z.array(z.object({ pointer: z.string(), message: z.string() })).optional(),
    /** On a conflict: the chain as it is now, and the revision under which the refused edit was kept. */
    theirs: chainStateSchema.optional(),
    keptAsRevision: z.int().optional(),
  })
  .meta({ id: 'Problem' })
export type Problem = z.infer<typeof problemSchema>
