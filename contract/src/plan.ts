/** The planner over HTTP: the same question and answer as in the interface. */
import { z } from 'zod'
import { cableSchema } from './cable.ts'
import { chainDocumentSchema } from './chain.ts'
import { bounded } from './fields.ts'
import { idSchema } from './ids.ts'
import { list } from './list.ts'
import { tunerStageSchema } from './stage.ts'
import { line } from './text.ts'

/** Price or weight, in whatever unit the one who asks counts in. */
const cost = bounded('A cost', 0, 1e9, '')
const places = ['none', 'radio', 'feedPoint'] as const

export const planRequestSchema = z
  .object({
    document: chainDocumentSchema,
    /** Sections whose cable may change. Leaving one as it stands is always a choice. */
    sections: list(
      z.object({
        stageId: idSchema,
        candidates: list(
          z.object({
            id: line('The id of a cable', 64),
            cable: cableSchema,
            /** Of a metre; without it the cable is left out, and named. */
            costPerM: cost.optional(),
          }),
          200,
          'cables for a section',
        ),
        /** What the cable that is there counts for: 0 for a price, its weight otherwise. */
        presentCost: cost.default(0),
      }),
      8,
      'sections',
    ),
    /** A tuner that may stand elsewhere; its cost where it would have to be bought. */
    tuner: z
      .object({
        tuner: tunerStageSchema,
        places: z.array(z.enum(places)).max(3),
        cost: cost.optional(),
      })
      .optional(),
    /** The channel with most loss, or a weight for every channel by its id. */
    counts: z
      .union([z.literal('worst'), z.record(idSchema, bounded('A weight', 0, 1000, ''))])
      .default('worst'),
    /** Of every section that gets another cable, such as its connectors. */
    costPerSection: cost.default(0),
    budget: cost.optional(),
  })
  .meta({ id: 'PlanRequest' })

export const planSchema = z
  .object({
    /** Nothing that was asked about loses less for as little; rising in cost. */
    front: z.array(
      z.object({
        cost: z.number(),
        lossDb: z.number().nullable(),
        antennaW: z.array(z.number()),
        /** By section; null leaves it as it stands. */
        cables: z.array(z.string().nullable()),
        /** null leaves the tuner where it is. */
        place: z.enum(places).nullable(),
      }),
    ),
    combinations: z.int(),
    solved: z.int(),
    /** Left out, since their cost is not known. */
    unknown: z.array(z.object({ section: z.int(), id: z.string() })),
    tunerUnknown: z.boolean(),
  })
  .meta({ id: 'Plan' })
