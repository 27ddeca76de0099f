/** A run of a sheet: its steps as they were then, what was done and read, why it was stopped. */
import { isKeyed } from '@saltline/core'
import { z } from 'zod'
import {
  bounded,
  frequencyHz,
  limits,
  note,
  powerW,
  shortText,
  swr,
  textLimits,
  timestamp,
} from './fields.ts'
import { idSchema } from './ids.ts'
import { farEnds } from './reading.ts'
import { list } from './list.ts'
import { dialMarks } from './stage.ts'
import { line, lines } from './text.ts'

const MOST_STEPS = 400
const words = (most: number) => lines('A text', most)
const watts = bounded('Power', ...limits.shownW, 'W')
const expected = z.number().nullable().optional()

const runLoad = z.enum(['antenna', 'dummy', 'cable'])

export const runStateSchema = z.object({
  tuner: z.enum(['bypass', 'set']).optional(),
  amplifier: z.enum(['bypass', 'on']).optional(),
  load: runLoad.optional(),
  carrier: z.boolean().optional(),
  share: bounded('A share', 0, 1, '').optional(),
  watts: powerW.optional(),
  window: z.boolean().optional(),
})

/** What a step changes in the station. */
const stationChangeSchema = z.object({
  load: runLoad.optional(),
  amplifier: z.enum(['bypass', 'on']).optional(),
  tuner: z.enum(['bypass', 'in']).optional(),
  power: z.literal('down').optional(),
})

/** A step of a sheet, written out for a channel. */
export const runStepSchema = z
  .object({
    id: idSchema,
    channelId: idSchema,
    kind: z.enum(['check', 'do', 'read', 'wait', 'hold', 'decide', 'caution']),
    title: line('The title of a step', 160),
    text: words(1000).optional(),
    shows: z.literal('ratings').optional(),
    when: z
      .enum([
        'tuner',
        'tuner in use',
        'tuner not in use',
        'amplifier',
        'amplifier in use',
        'amplifier not in use',
        'tuned amplifier',
        'tuned amplifier in use',
      ])
      .optional(),
    state: runStateSchema.optional(),
    makes: stationChangeSchema.optional(),
    tunes: z.enum(['tuner', 'amplifier']).optional(),
    on: z.literal('highest').optional(),
    place: z.enum(['radio', 'output', 'meter', 'tuner', 'antenna']).optional(),
    figures: z.enum(['forward', 'both', 'swr']).optional(),
    seconds: bounded('Seconds', 0.1, 86_400, 's').optional(),
    rest: z.boolean().optional(),
    mostSwr: swr.optional(),
    dials: z.enum(['tuner', 'amplifier']).optional(),
    sweep: z.object({ of: z.enum(['line', 'cable']), farEnd: z.enum(farEnds) }).optional(),
    choices: z
      .array(
        z.object({
          label: line('A choice', 120),
          backTo: idSchema.optional(),
          end: z.enum(['done', 'stopped']).optional(),
        }),
      )
      .max(8)
      .optional(),
  })
  .meta({ id: 'RunStep' })
export type RunStepDocument = z.infer<typeof runStepSchema>

const sheetStepSchema = runStepSchema.omit({ channelId: true })
const loopSchema = z.object({
  over: z.enum(['levels', 'channels']),
  levels: z
    .array(bounded('A level', 0.01, 1, ''))
    .min(1)
    .max(10)
    .optional(),
  steps: z.array(sheetStepSchema).min(1).max(30),
})

/** A sheet of the station's own, usually a copy of one that ships. */
export const runSheetSchema = z
  .object({
    /** Named as gear is named. */
    name: shortText('Title'),
    purpose: line('What it is for', 160).default(''),
    version: z.int().min(1),
    /** The sheet it was copied from. */
    copiedFrom: idSchema.optional(),
    needs: z.array(z.enum(['tuner', 'hand tuner', 'automatic tuner', 'amplifier', 'cable'])).max(5),
    steps: z
      .array(z.union([loopSchema, sheetStepSchema]))
      .min(1, 'A sheet needs at least one step.')
      .max(100),
  })
  .superRefine(({ steps }, context) => {
    const seen = new Set<string>()
    steps
      .flatMap((step) => ('over' in step ? step.steps : [step]))
      .forEach((step, i) => {
        const { id, title, choices = [] } = step
        if (step.sweep && isKeyed(step))
          context.addIssue({
            code: 'custom',
            message: `“${title}” asks for a sweep with the key down: an analyser and power never meet.`,
            path: ['steps', i],
          })
        if (seen.has(id))
          context.addIssue({
            code: 'custom',
            path: ['steps', i],
            message: `“${title}” has an id that another step has.`,
          })
        for (const { backTo } of choices)
          if (backTo !== undefined && !seen.has(backTo))
            context.addIssue({
              code: 'custom',
              path: ['steps', i],
              message: `“${title}” goes back to a step that is not in front of it.`,
            })
        seen.add(id)
      })
  })
  .meta({ id: 'RunSheet' })
export type RunSheetDocument = z.output<typeof runSheetSchema>

/** What became of a step; a step done again has several. */
export const runEntrySchema = z
  .object({
    /** Its own, given where it was entered; runs of earlier days have none. */
    id: idSchema.optional(),
    stepId: idSchema,
    at: timestamp,
    outcome: z.enum(['done', 'skipped', 'stopped']),
    /** Why it was skipped, what was chosen, or what its sweep said. */
    words: line('A reason', 200).optional(),
    forwardW: watts.optional(),
    reflectedW: watts.optional(),
    swr: swr.optional(),
    expectedW: expected,
    lowW: expected,
    highW: expected,
    expectedSwr: expected,
    /** Seconds with the key down. */
    keyedS: bounded('Seconds', 0, 86_400, 's').optional(),
    dials: dialMarks.optional(),
    /** The rule that said: unkey now; and whether the operator went on all the same. */
    stop: z
      .object({ rule: line('A rule', 40), why: line('Why', 300), wentOn: z.boolean() })
      .optional(),
    /** The reading in the log, and the sweep. */
    readingId: idSchema.optional(),
    sweepId: idSchema.optional(),
  })
  .meta({ id: 'RunEntry' })
export type RunEntry = z.infer<typeof runEntrySchema>

export const runBodySchema = z
  .object({
    sheetId: idSchema,
    sheetVersion: z.int(),
    title: shortText('Title'),
    channelId: idSchema,
    frequencyHz,
    by: line('A name', textLimits.by).default(''),
    instrumentId: idSchema.optional(),
    steps: list(runStepSchema, MOST_STEPS, 'steps of a run').refine(
      (steps) => steps.length > 0,
      'A run needs at least one step.',
    ),
    /** Index of the step that is next; the number of steps when all are done. */
    next: z.int().min(0).max(MOST_STEPS),
    entries: list(runEntrySchema, 2000, 'entries of a run'),
    outcome: z.enum(['running', 'done', 'stopped']),
    /** Whether its steps were written out and checked for the chain, and no step is keyed that its state forbids. */
    checked: z.boolean().optional(),
    /** Why it was begun although its sheet asks for what must never happen, and what that is. */
    begunDespite: z
      .object({
        why: line('A reason', 200),
        dangers: list(words(400), 100, 'dangers of a sheet'),
      })
      .optional(),
    /** The measurement session that its readings are in. */
    roundId: idSchema.optional(),
    note: note.default(''),
  })
  .meta({ id: 'RunBody' })
export type RunBody = z.output<typeof runBodySchema>

export const runSchema = runBodySchema
  .extend({
    id: idSchema,
    chainId: idSchema,
    /** Raised with every change: whoever changes it names the one that was seen. */
    revision: z.int(),
    startedAt: timestamp,
    changedAt: timestamp,
  })
  .meta({ id: 'Run' })
export type Run = z.output<typeof runSchema>

/** What was done on a run, and the revision that it was done on; 0 where it begins. */
export const runSaveSchema = z
  .object({
    baseRevision: z.int().min(0),
    run: runBodySchema,
    /** When it was begun, where that waited to be sent. */
    startedAt: timestamp.optional(),
  })
  .meta({ id: 'RunSave' })
export type RunSave = z.output<typeof runSaveSchema>
