/** A station as one file: everything of it that another Salt Line needs. */
import { z } from 'zod'
import { chainDocumentSchema } from './chain.ts'
import { note, shortText, timestamp } from './fields.ts'
import { idSchema } from './ids.ts'
import { eventSchema, measurementSchema, readingSchema } from './log.ts'
import { gearBodySchema, phaseKnown, stationBodySchema } from './station.ts'

export const STATION_FILE_VERSION = 2

const numbers = z.array(z.number()).max(200_000)

const sweepFileSchema = z
  .object({
    id: idSchema,
    name: z.string().max(80),
    /** Reflection on 50 Ω at the feed point, at rising frequencies. */
    frequencyHz: numbers.min(1),
    re: numbers,
    im: numbers,
    phaseKnown,
  })
  .refine((s) => s.re.length === s.frequencyHz.length && s.im.length === s.frequencyHz.length, {
    message: 'A sweep needs as many real and imaginary parts as frequencies.',
    path: ['frequencyHz'],
  })
  .refine((s) => s.frequencyHz.every((f, i) => f > (s.frequencyHz[i - 1] ?? 0)), {
    message: 'The frequencies of a sweep must rise.',
    path: ['frequencyHz'],
  })

const fileRoundSchema = z.object({
  id: idSchema,
  chainId: idSchema,
  startedAt: timestamp,
  lastAt: timestamp,
  note,
})

/** The record: readings with what was expected of them, the sessions they were taken in, and the rest. */
const logFileSchema = z.object({
  rounds: z.array(fileRoundSchema),
  readings: z.array(readingSchema),
  events: z.array(eventSchema),
  measurements: z.array(measurementSchema),
})

/** Version 1 had bare chain documents and no log. */
function migrateStationFile(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value
  const file = value as Record<string, unknown>
  if (file['version'] !== 1 || !Array.isArray(file['chains'])) return value
  return {
    ...file,
    version: 2,
    chains: file['chains'].map((document: unknown, i) => ({ id: `chain-${i + 1}`, document })),
    log: { rounds: [], readings: [], events: [], measurements: [] },
  }
}

const stationFileShape = z
  .object({
    format: z.literal('saltline-station', {
      error: 'This is not a Salt Line station file: its “format” is not “saltline-station”.',
    }),
    version: z.literal(STATION_FILE_VERSION, {
      error: 'This station file has a version that this Salt Line does not know. Update Salt Line.',
    }),
    station: stationBodySchema,
    gear: z.array(z.intersection(gearBodySchema, z.object({ id: idSchema }))),
    antennas: z.array(
      z.object({
        id: idSchema,
        name: shortText('Antenna name'),
        note,
        sweeps: z.array(sweepFileSchema),
      }),
    ),
    chains: z.array(z.object({ id: idSchema, document: chainDocumentSchema })),
    log: logFileSchema,
  })
  .superRefine((file, context) => {
    const wrong = (path: (string | number)[], message: string) =>
      context.addIssue({ code: 'custom', path, message })
    // A chain may only end in a sweep that the file brings with it.
    const swept = new Set(file.antennas.flatMap((a) => a.sweeps.map((s) => `${a.id}/${s.id}`)))
    file.chains.forEach(({ document: { load, name } }, i) => {
      if (load.kind === 'antenna' && !swept.has(`${load.antennaId}/${load.sweepId}`))
        wrong(
          ['chains', i, 'document', 'load', 'sweepId'],
          `The antenna sweep of “${name}” is not in the file.`,
        )
    })
    const twice = (list: readonly { id: string }[], path: string[]) => {
      const seen = new Set<string>()
      list.forEach(({ id }, i) => {
        if (seen.has(id)) wrong([...path, i, 'id'], `The id “${id}” stands twice.`)
        seen.add(id)
      })
      return seen
    }
    const chains = twice(file.chains, ['chains'])
    const rounds = twice(file.log.rounds, ['log', 'rounds'])
    twice(file.log.readings, ['log', 'readings'])
    twice(file.gear, ['gear'])
    twice(file.antennas, ['antennas'])
    for (const list of ['rounds', 'readings', 'events'] as const)
      file.log[list].forEach(({ chainId }, i) => {
        if (!chains.has(chainId))
          wrong(['log', list, i, 'chainId'], `There is no chain “${chainId}” in the file.`)
      })
    file.log.readings.forEach(({ roundId }, i) => {
      if (!rounds.has(roundId))
        wrong(['log', 'readings', i, 'roundId'], `There is no session “${roundId}” in the file.`)
    })
  })

export const stationFileSchema = z
  .preprocess(migrateStationFile, stationFileShape)
  .meta({ id: 'StationFile' })
export type StationFile = z.output<typeof stationFileSchema>
