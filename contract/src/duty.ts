/** What has to be done again and again: for a chain, a thing or the whole station, every so often or after an event. */
import { z } from 'zod'
import { day, note, shortText } from './fields.ts'
import { idSchema } from './ids.ts'
import { list } from './list.ts'
import { worksheetKinds } from './log.ts'
import { line } from './text.ts'

/** What is to be done. All but what is plain counts by itself once it is in the record. */
export const dutyTaskSchema = z
  .discriminatedUnion('kind', [
    /** A run sheet, done to its end. */
    z.object({ kind: z.literal('sheet'), sheetId: idSchema }),
    /** A bench sheet, kept. */
    z.object({ kind: z.literal('bench'), worksheet: z.enum(worksheetKinds) }),
    /** A reading; of one channel where it is named. */
    z.object({ kind: z.literal('reading'), channelId: idSchema.optional() }),
    /** Said in the title, and ticked. */
    z.object({ kind: z.literal('plain') }),
  ])
  .meta({ id: 'DutyTask' })
export type DutyTask = z.infer<typeof dutyTaskSchema>

const dutyShape = z.object({
  title: shortText('What is to be done'),
  note: note.default(''),
  /** Null for what belongs to the whole station. */
  chainId: idSchema.nullable().default(null),
  /** The thing of the register that it is for; null for what belongs to a chain or the station. */
  thingId: idSchema.nullable().default(null),
  task: dutyTaskSchema,
  /** Months from one time to the next; null for what only follows an event. */
  months: z.int('Give whole months.').min(1).max(240).nullable().default(null),
  /** A word of the events that ask for it, as “storm”. */
  afterEvent: line('A word of an event', 40).min(2).nullable().default(null),
  /** The day on which it is due for the first time, and from which events count. */
  from: day,
  /** One that ships, by its name; each is offered once. */
  shipped: line('A shipped duty', 80).optional(),
})

export const dutyBodySchema = dutyShape
  .superRefine(({ months, afterEvent, task, chainId, thingId }, context) => {
    const wrong = (path: string, message: string) =>
      context.addIssue({ code: 'custom', path: [path], message })
    if (months === null && afterEvent === null)
      wrong('months', 'Say how often: every so many months, after an event, or both.')
    if (chainId !== null && thingId !== null)
      wrong('thingId', 'Say for which chain or for which thing, not both.')
    if (chainId === null && (task.kind === 'sheet' || task.kind === 'reading'))
      wrong('chainId', 'A run sheet and a reading belong to a chain: say which.')
    if (chainId === null && afterEvent !== null)
      wrong('chainId', 'Events are noted for a chain: say which.')
  })
  .meta({ id: 'DutyBody' })
export type DutyBody = z.output<typeof dutyBodySchema>

/** What was said of a duty by hand: done on a day, or put off until one. */
export const dutyMarkBodySchema = z
  .object({
    kind: z.enum(['done', 'put off']),
    /** The day on which it was done, or until which it is put off. */
    on: day,
    /** Why it is put off; with what is done, a note. */
    reason: line('A reason', 200).default(''),
  })
  .refine(({ kind, reason }) => kind === 'done' || reason !== '', {
    path: ['reason'],
    message: 'Say why it is put off: that stays on record.',
  })
  .meta({ id: 'DutyMarkBody' })
export type DutyMarkBody = z.output<typeof dutyMarkBodySchema>

export const dutyMarkSchema = z
  .object({
    id: idSchema,
    kind: z.enum(['done', 'put off']),
    on: day,
    reason: z.string(),
    at: z.iso.datetime(),
  })
  .meta({ id: 'DutyMark' })
export type DutyMark = z.infer<typeof dutyMarkSchema>

export const dutySchema = dutyShape
  .extend({
    id: idSchema,
    /** The chain’s name. */
    chain: z.string().nullable(),
    /** The thing, as “L2 Duct run”. */
    thing: z.string().nullable(),
    /** When it was last done, and what of the record says so. */
    last: z
      .object({ on: day, how: z.enum(['run sheet', 'bench sheet', 'reading', 'ticked']) })
      .nullable(),
    /** When it is due; null where nothing asks for it before its event. */
    due: day.nullable(),
    /** Why it is due on that day, where it is not the months alone. */
    because: z.string().nullable(),
    /** The days on which it would be due after that, within a year of today. */
    ahead: z.array(day),
    /** Months that would do as well by the record. */
    stretchTo: z.int().nullable(),
    /** Newest first. */
    marks: z.array(dutyMarkSchema),
  })
  .meta({ id: 'Duty' })
export type Duty = z.infer<typeof dutySchema>

/** A duty that ships and fits the station: taken as it is, changed, or declined. */
export const offeredDutySchema = dutyShape
  .extend({
    shipped: z.string(),
    chain: z.string().nullable(),
    /** When the record says that it was done. */
    last: day.nullable(),
  })
  .meta({ id: 'OfferedDuty' })
export type OfferedDuty = z.output<typeof offeredDutySchema>

/** A duty as a station file carries it. */
export const dutyInFileSchema = z.intersection(
  dutyBodySchema,
  z.object({ id: idSchema, marks: list(dutyMarkSchema, 5000, 'marks of a duty') }),
)

/** The zone in which days are counted. */
export const zoneQuerySchema = z.object({
  zone: z
    .string()
    .max(60)
    .refine(isZone, 'Give a time zone by its name, as Europe/Lisbon.')
    .default('UTC'),
})

function isZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone })
    return true
  } catch {
    return false
  }
}
