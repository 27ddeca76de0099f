import { InputError } from '../errors.ts'
import type { Cable } from '../line/cable.ts'
import { lineConstants, matchedLossDb } from '../line/constants.ts'
import { median } from '../statistics/quantile.ts'
import type { MeasuredLoss } from './substitution.ts'
import { substitution } from './substitution.ts'
import type { Meter } from '../measure/meter.ts'

/** One lead at one power and frequency, against the same without it; C is whatever its cable is known by. */
export interface LeadReading<C extends Cable = Cable> {
  name: string
  lengthM: number
  frequencyHz: number
  /** Without any lead, W. */
  referenceW: number
  /** With this lead, W. */
  watts: number
  /** Of its class, where that is known. */
  cable?: C | undefined
}

export interface LeadCompared<C extends Cable = Cable> extends Pick<
  MeasuredLoss,
  'lossDb' | 'blindDb'
> {
  reading: LeadReading<C>
  dbPerM: number
  /** What it should lose: by its class, else by the middle of the others per metre; null where nobody says. */
  expectedDb: number | null
  /** Length of such a cable that would lose as much, m; null where nobody says. */
  likeM: number | null
  /** It loses more than it should, and more than the reading may be off. */
  odd: boolean
}

/** From half as much again, a lead is worth looking at. */
const ODD_FROM = 1.5

/**
 * Leads compared on one meter: watts, dB, dB per metre, and the one that does not fit.
 *
 * @throws InputError, under `leads`, where a reading cannot be
 */
export function compareLeads<C extends Cable>(
  meter: Meter,
  leads: readonly LeadReading<C>[],
): LeadCompared<C>[] {
  if (leads.length === 0)
    throw new InputError('Read one lead at least, and the reference without a lead.', ['leads'])
  leads.forEach(({ lengthM }, i) => {
    if (!(lengthM > 0)) throw new InputError('A lead has a length of more than 0 m.', ['leads', i])
  })
  const losses = substitution({
    meter,
    points: leads.map(({ frequencyHz, referenceW, watts }) => ({
      frequencyHz,
      directW: referenceW,
      throughW: watts,
    })),
    sharedError: true,
  })
  return leads.map((reading, i) => {
    const { lossDb, blindDb } = losses[i]!
    const expectedDb = expectedOf(reading, leads, losses)
    const perM = expectedDb === null ? null : expectedDb / reading.lengthM
    return {
      reading,
      lossDb,
      blindDb,
      dbPerM: lossDb.value / reading.lengthM,
      expectedDb,
      likeM: perM ? lossDb.value / perM : null,
      odd: expectedDb !== null && lossDb.low > ODD_FROM * expectedDb,
    }
  })
}

/** What a lead should lose: by its class; without one, by the others on that frequency. */
function expectedOf(
  { cable, lengthM, frequencyHz, name }: LeadReading,
  leads: readonly LeadReading[],
  losses: readonly MeasuredLoss[],
): number | null {
  if (cable) return matchedLossDb(lineConstants(cable, frequencyHz), lengthM)
  const others = leads.flatMap((each, k) =>
    each.name !== name && each.frequencyHz === frequencyHz
      ? [Math.max(0, losses[k]!.lossDb.value) / each.lengthM]
      : [],
  )
  return others.length < 2 ? null : median(others) * lengthM
}
