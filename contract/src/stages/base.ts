/** What every stage has, whatever its kind. */
import { z } from 'zod'
import { note, shortText, textLimits } from '../fields.ts'
import { idSchema } from '../ids.ts'
import { list } from '../list.ts'
import { line } from '../text.ts'
import { type Figure, shapeOf } from './figure.ts'

/** What the operator knows a part to bear; it goes before its class in the catalogue. */
export const ownLimitsFigures = [
  {
    key: 'voltageRms',
    noun: 'Rated voltage',
    label: 'Rated voltage, RMS',
    quantity: 'voltage',
    within: 'ratedVoltageRms',
    optional: true,
    step: 50,
  },
  {
    key: 'firingVoltageDc',
    noun: 'Firing voltage',
    label: 'Firing voltage, DC',
    quantity: 'voltage',
    within: 'firingVoltageDc',
    optional: true,
    step: 10,
  },
  {
    // Average, W; of a cable at 40 °C and on the channel’s frequency.
    key: 'averageW',
    noun: 'Average power',
    quantity: 'power',
    within: 'powerW',
    optional: true,
  },
  {
    key: 'timeConstantS',
    noun: 'Time constant',
    label: 'Time constant',
    quantity: 'time',
    within: 'timeConstantS',
    optional: true,
    step: 10,
  },
] as const satisfies readonly Figure[]

export const ownLimitsSchema = z.object(shapeOf(ownLimitsFigures)).meta({ id: 'OwnLimits' })

export const stageBase = {
  id: idSchema,
  name: shortText('Stage name'),
  bypassed: z.boolean().optional(),
  /** The thing of the station’s register that it is. */
  thingId: idSchema.optional(),
  note: note.optional(),
  limits: ownLimitsSchema.optional(),
}

/** What the dials of a part read, in the order of its front panel; empty where one was not noted. */
export const dialMarks = list(line('A dial mark', textLimits.dialMark), 3, 'dial marks')
