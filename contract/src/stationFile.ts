/** A station as one file: everything of it that another Salt Line needs. */
import { z } from 'zod'
import { chainDocumentSchema } from './chain.ts'
import { bounded, frequencyHz, note, shortText, textLimits, timestamp } from './fields.ts'
import { idSchema } from './ids.ts'
import { lineSweepInFileSchema } from './lineSweep.ts'
import { list } from './list.ts'
import { dutyInFileSchema } from './duty.ts'
import { eventSchema, measurementSchema } from './log.ts'
import { type KeptReading, keptReadingSchema } from './reading.ts'
import { runSchema } from './run.ts'
import { gearBodySchema, phaseKnown, stationBodySchema } from './station.ts'
import { line } from './text.ts'
import { thingInFileSchema } from './thing.ts'

export const STATION_FILE_VERSION = 2

const SWEEP_POINTS = 200_000
/** Parts of a reflection; a passive antenna stays within 1, and a measurement strays a little. */
const parts = list(bounded('Reflection', -1.5, 1.5, ''), SWEEP_POINTS, 'points')

const sweepFileSchema = z
  .object({
    id: idSchema,
    name: line('Sweep name', textLimits.name),
    /** Reflection on 50 Ω at the feed point, at rising frequencies. */
    frequencyHz: list(frequencyHz, SWEEP_POINTS, 'points').refine(
      (frequencies) => frequencies.length > 0,
      'A sweep needs at least one point.',
    ),
    re: parts,
    im: parts,
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
  rounds: list(fileRoundSchema, 1_000_000, 'sessions'),
  readings: list(keptReadingSchema, 2_000_000, 'readings'),
  events: list(eventSchema, 20_000, 'events'),
  measurements: list(measurementSchema, 20_000, 'bench sheets'),
  /** Runs of sheets; files that are older have none. */
  runs: list(runSchema, 20_000, 'runs').default([]),
  /** Sweeps along lines; files that are older have none. */
  sweeps: list(lineSweepInFileSchema, 20_000, 'sweeps').default([]),
})

/** Version 1 had bare chain documents and no log. */
function migrateStationFile(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value
  const file = value as Record<string, unknown>
  if (file['version'] !== 1 || !Array.isArray(file['chains'])) return value
  return {
    ...file,
    version: 2,
    things: [],
    duties: [],
    chains: file['chains'].map((document: unknown, i) => ({ id: `chain-${i + 1}`, document })),
    log: { rounds: [], readings: [], events: [], measurements: [], runs: [], sweeps: [] },
  }
}

interface Fault {
  path: (string | number)[]
  message: string
}

/** What readings name: their chains, and the sessions of those. */
interface Named {
  chains: readonly { id: string }[]
  log: { rounds: readonly { id: string; chainId: string }[] }
}

/**
 * Whether readings of a file belong to it, portion by portion: their chain and session are there, no id stands twice.
 *
 * @returns checks a portion, which begins at a place in the list of all readings
 */
export function readingChecks({
  chains,
  log,
}: Named): (portion: readonly KeptReading[], from: number) => Fault[] {
  const own = new Set(chains.map(({ id }) => id))
  const chainOfRound = new Map(log.rounds.map(({ id, chainId }) => [id, chainId]))
  const seen = new Set<string>()
  return (portion, from) =>
    portion.flatMap(({ id, chainId, roundId }, i) => {
      const faults: Fault[] = []
      const wrong = (field: string, message: string) =>
        faults.push({ path: ['log', 'readings', from + i, field], message })
      if (seen.has(id)) wrong('id', `The id “${id}” stands twice.`)
      seen.add(id)
      if (!own.has(chainId)) wrong('chainId', `There is no chain “${chainId}” in the file.`)
      const of = chainOfRound.get(roundId)
      if (of === undefined) wrong('roundId', `There is no session “${roundId}” in the file.`)
      else if (of !== chainId) wrong('roundId', `The session “${roundId}” is one of another chain.`)
      return faults
    })
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
    gear: list(z.intersection(gearBodySchema, z.object({ id: idSchema })), 2000, 'pieces of gear'),
    antennas: list(
      z.object({
        id: idSchema,
        name: shortText('Antenna name'),
        note,
        sweeps: list(sweepFileSchema, 200, 'sweeps of an antenna'),
      }),
      500,
      'antennas',
    ),
    chains: list(z.object({ id: idSchema, document: chainDocumentSchema }), 500, 'chains'),
    /** Files that are older have none. */
    things: list(thingInFileSchema, 5000, 'things').default([]),
    duties: list(dutyInFileSchema, 2000, 'duties').default([]),
    log: logFileSchema,
  })
  .superRefine((file, context) => {
    let faults = 0
    const wrong = (path: (string | number)[], message: string) => {
      if (faults++ < 50) context.addIssue({ code: 'custom', path, message })
    }
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
    twice(file.log.rounds, ['log', 'rounds'])
    const owned = twice(file.things, ['things'])
    twice(file.duties, ['duties'])
    file.duties.forEach(({ chainId, thingId, marks }, i) => {
      if (thingId !== null && !owned.has(thingId))
        wrong(['duties', i, 'thingId'], `There is no thing “${thingId}” in the file.`)
      if (chainId !== null && !chains.has(chainId))
        wrong(['duties', i, 'chainId'], `There is no chain “${chainId}” in the file.`)
      twice(marks, ['duties', String(i), 'marks'])
    })
    const there = {
      gear: twice(file.gear, ['gear']),
      antenna: twice(file.antennas, ['antennas']),
    }
    file.things.forEach(({ of }, i) => {
      if (of && !there[of.kind].has(of.id))
        wrong(
          ['things', i, 'of', 'id'],
          `There is no ${of.kind === 'gear' ? 'entry of gear' : 'antenna'} “${of.id}” in the file.`,
        )
    })
    const sweeps = new Set<string>()
    file.antennas.forEach((antenna, a) =>
      antenna.sweeps.forEach(({ id }, i) => {
        if (sweeps.has(id))
          wrong(['antennas', a, 'sweeps', i, 'id'], `The id “${id}” stands twice.`)
        sweeps.add(id)
      }),
    )
    for (const list of ['rounds', 'events', 'runs', 'sweeps'] as const)
      file.log[list].forEach(({ chainId }, i) => {
        if (!chains.has(chainId))
          wrong(['log', list, i, 'chainId'], `There is no chain “${chainId}” in the file.`)
      })
    for (const { path, message } of readingChecks(file)(file.log.readings, 0)) wrong(path, message)
  })

export const stationFileSchema = z
  .preprocess(migrateStationFile, stationFileShape)
  .meta({ id: 'StationFile' })
export type StationFile = z.output<typeof stationFileSchema>
