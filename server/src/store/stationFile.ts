import {
  chainDocumentSchema,
  type GearBody,
  type KeptReading,
  newId,
  STATION_FILE_VERSION,
  type Station,
  type StageDocument,
  type StationFile,
} from '@saltline/contract'
import { REFERENCE_OHM } from '@saltline/core'
import { and, eq, isNull } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import {
  antennas,
  chainRevisions,
  chains,
  duties,
  dutyMarks,
  events,
  gear,
  lineSweeps,
  measurements,
  readings,
  rounds,
  runs,
  stations,
  sweeps,
  things,
} from '../db/schema.ts'
import { insertMany } from '../db/many.ts'
import { write } from '../db/writes.ts'
import { arrive, byPortions, letOthers } from './arrivals.ts'
import { packPoints, readSweepById } from './antennas.ts'
import { readChain } from './chains.ts'
import { keptDuties } from './duties.ts'
import { listEvents } from './events.ts'
import { listLineSweeps, readLineSweep } from './lineSweeps.ts'
import { listMeasurements } from './measurements.ts'
import { readingTexts } from './logTexts.ts'
import { listed } from './logFiles.ts'
import { refreshRounds } from './rounds.ts'
import { runsOfStation } from './runs.ts'
import { readStation } from './stations.ts'
import { endedStays } from './thingHistory.ts'
import { listThings } from './things.ts'

/**
 * A station with its gear, antennas, chains as they stand and its whole record, as the text of a station
 * file, portion by portion. Earlier revisions and what is in the bin stay behind.
 */
export async function* stationFileText(db: Database, stationId: string): AsyncGenerator<string> {
  const { chains: own, antennas: swept, ...station } = await readStation(db, stationId)
  const { name, place, note, swrLimit, environment, currency, prices } = station
  yield (
    `{"format":"saltline-station","version":${STATION_FILE_VERSION}` +
    `,"station":${JSON.stringify({ name, place, note, swrLimit, environment, currency, prices })}` +
    `,"gear":${JSON.stringify(station.gear)}`
  )
  yield ',"antennas":'
  yield* asList(swept, async ({ id, name: antenna, note: about, sweeps: all }) => ({
    id,
    name: antenna,
    note: about,
    sweeps: await Promise.all(
      all.map(async (summary) => {
        const { name: sweep, frequencyHz, re, im, phaseKnown } = await readSweepById(db, summary.id)
        return { id: summary.id, name: sweep, frequencyHz, re, im, phaseKnown }
      }),
    ),
  }))
  yield ',"chains":'
  // An older document is brought up on its way out, as on every way in.
  yield* asList(own, async ({ id }) => ({
    id,
    document: chainDocumentSchema.parse((await readChain(db, id)).document),
  }))
  const owned = await listThings(db, stationId)
  yield ',"things":'
  yield* asList(owned, async ({ places: _, name: _name, ...thing }) => ({
    ...thing,
    // Revisions stay behind: where it was once is told by the thing.
    earlier: await endedStays(db, thing.id),
  }))
  const asked = await keptDuties(db, stationId)
  yield `,"duties":${JSON.stringify(asked.map(({ id, body, marks }) => ({ id, ...body, marks })))}`
  const sessions = await db
    .select({
      id: rounds.id,
      chainId: rounds.chainId,
      startedAt: rounds.startedAt,
      lastAt: rounds.lastAt,
      note: rounds.note,
    })
    .from(rounds)
    .innerJoin(chains, eq(chains.id, rounds.chainId))
    .where(and(eq(rounds.stationId, stationId), isNull(chains.deletedAt)))
  yield `,"log":{"rounds":${JSON.stringify(sessions)},"readings":[`
  yield* listed(readingTexts(db, stationId))
  yield '],"events":'
  yield JSON.stringify((await Promise.all(own.map(({ id }) => listEvents(db, id)))).flat())
  yield (
    `,"measurements":${JSON.stringify(await listMeasurements(db, stationId, -1))}` +
    `,"runs":${JSON.stringify(await runsOfStation(db, stationId))}`
  )
  const alongLines = (await Promise.all(own.map(({ id }) => listLineSweeps(db, id, -1)))).flat()
  yield ',"sweeps":'
  yield* asList(alongLines, async ({ id }) => {
    const {
      pointCount: _,
      lowHz: _low,
      highHz: _high,
      chainRevision: _revision,
      ...sweep
    } = await readLineSweep(db, id)
    return sweep
  })
  yield '}}\n'
}

async function* asList<T>(
  items: readonly T[],
  write: (item: T) => Promise<unknown>,
): AsyncGenerator<string> {
  yield '['
  for (const [i, item] of items.entries())
    yield (i === 0 ? '\n' : ',\n') + JSON.stringify(await write(item))
  yield ']'
}

/** What a station file says: all but its readings, and these by portions, from the first, each time they are asked for. */
export interface StationFileSource {
  file: StationFile
  readings: () => AsyncIterable<KeptReading[]>
}

/**
 * Adds the station of a file beside those that are there, under new ids; all of it or nothing. It
 * replaces nothing, so deleting the new station undoes it.
 */
export async function importStation(
  db: Database,
  { file, readings: portions }: StationFileSource,
): Promise<Station> {
  const stationId = newId()
  const at = new Date().toISOString()
  const renamed = new Map<string, string>()
  const fresh = (old: string): string => {
    const known = renamed.get(old) ?? newId()
    renamed.set(old, known)
    return known
  }
  const { log } = file
  const chainOf = (old: string) => fresh(`chain/${old}`)
  const roundIds = log.rounds.map(({ id }) => fresh(`round/${id}`))
  const bringWithoutReadings = (mark: string) =>
    write(db, async (tx) => {
      await tx
        .insert(stations)
        .values({ id: stationId, ...file.station, createdAt: at, deletedAt: mark })
      const inFile = new Set(file.gear.map(({ id }) => id))
      /** What was taken from the station’s own Gear names the entry that came with it. */
      const ownGear = <T extends object>(part: T): T =>
        'gearId' in part && typeof part.gearId === 'string' && inFile.has(part.gearId)
          ? { ...part, gearId: fresh(`gear/${part.gearId}`) }
          : part
      for (const { id, ...body } of file.gear) {
        const own = { ...body, document: ownGear(body.document) } as GearBody
        await tx.insert(gear).values({ id: fresh(`gear/${id}`), stationId, body: own })
      }
      for (const { id, name, note, sweeps: swept } of file.antennas) {
        const antennaId = fresh(`antenna/${id}`)
        await tx.insert(antennas).values({ id: antennaId, stationId, name, note })
        for (const { id: sweepId, name: sweepName, frequencyHz, re, im, phaseKnown } of swept) {
          await tx.insert(sweeps).values({
            id: fresh(`sweep/${sweepId}`),
            antennaId,
            name: sweepName,
            addedAt: at,
            referenceOhm: REFERENCE_OHM,
            pointCount: frequencyHz.length,
            lowHz: frequencyHz[0]!,
            highHz: frequencyHz[frequencyHz.length - 1]!,
            phaseKnown,
            points: packPoints({ frequencyHz, re, im }),
          })
        }
      }
      for (const { id, of, movedTo, earlier, ...body } of file.things)
        await tx.insert(things).values({
          id: fresh(`thing/${id}`),
          stationId,
          body: {
            ...body,
            ...(of && { of: { ...of, id: fresh(`${of.kind}/${of.id}`) } }),
            movedTo: movedTo && chainOf(movedTo),
            earlier: earlier.map((stay) => ({ ...stay, chainId: chainOf(stay.chainId) })),
          },
        })
      const there = new Set(file.things.map(({ id }) => id))
      /** A stage is the thing that came with it, or none. */
      const withOwn = ({ thingId, ...stage }: StageDocument): StageDocument => ({
        ...stage,
        ...('cable' in stage && { cable: ownGear(stage.cable) }),
        ...(thingId !== undefined && there.has(thingId) && { thingId: fresh(`thing/${thingId}`) }),
      })
      for (const { id: old, document } of file.chains) {
        const id = fresh(`chain/${old}`)
        const { load } = document
        const own =
          load.kind === 'antenna'
            ? {
                ...load,
                antennaId: fresh(`antenna/${load.antennaId}`),
                sweepId: fresh(`sweep/${load.sweepId}`),
              }
            : load
        await tx.insert(chains).values({ id, stationId, revision: 1, createdAt: at })
        await tx.insert(chainRevisions).values({
          chainId: id,
          revision: 1,
          parent: null,
          document: {
            ...document,
            transmitter: ownGear(document.transmitter),
            load: own,
            stages: document.stages.map(withOwn),
          },
          summary: 'imported',
          savedAt: at,
          aside: false,
        })
      }
      await insertMany(
        tx,
        rounds,
        log.rounds.map((round, i) => ({
          ...round,
          id: roundIds[i]!,
          stationId,
          chainId: chainOf(round.chainId),
        })),
      )
      await insertMany(
        tx,
        events,
        log.events.map((event) => ({ ...event, id: newId(), chainId: chainOf(event.chainId) })),
      )
      await insertMany(
        tx,
        runs,
        log.runs.map(({ id: _, chainId, revision, startedAt, changedAt, ...body }) => ({
          id: newId(),
          chainId: chainOf(chainId),
          revision,
          startedAt,
          changedAt,
          body: {
            ...body,
            roundId: body.roundId && renamed.get(`round/${body.roundId}`),
            instrumentId: body.instrumentId && renamed.get(`gear/${body.instrumentId}`),
            // Readings get new ids; the session they are in is still named.
            entries: body.entries.map(({ readingId: _reading, ...entry }) => entry),
          },
        })),
      )
      await insertMany(
        tx,
        lineSweeps,
        log.sweeps.map(({ chainId, before, place, readAt, frequencyHz, re, im, ...kept }) => {
          const { id: _, ...body } = kept
          return {
            ...{ id: newId(), chainId: chainOf(chainId), chainRevision: 1, before, place, readAt },
            body: {
              ...body,
              lowHz: Math.round(frequencyHz[0]!),
              highHz: Math.round(frequencyHz.at(-1)!),
            },
            pointCount: frequencyHz.length,
            points: packPoints({ frequencyHz, re, im }),
          }
        }),
      )
      for (const { id: old, marks, shipped, ...duty } of file.duties) {
        const id = fresh(`duty/${old}`)
        const chainId = duty.chainId && chainOf(duty.chainId)
        // One that ships is known by its chain, which has another id here.
        const name = shipped && `${shipped.split(' ')[0]}${chainId ? ` ${chainId}` : ''}`
        const thingId = duty.thingId && fresh(`thing/${duty.thingId}`)
        const body = { ...duty, chainId, thingId, ...(name && { shipped: name }) }
        await tx.insert(duties).values({ id, stationId, body, changedAt: at })
        await insertMany(
          tx,
          dutyMarks,
          marks.map((mark) => ({ ...mark, id: newId(), dutyId: id })),
        )
      }
      await insertMany(
        tx,
        measurements,
        log.measurements.map((sheet) => ({
          ...sheet,
          id: newId(),
          stationId,
          chainId: sheet.chainId ? (renamed.get(`chain/${sheet.chainId}`) ?? null) : null,
          stageId: sheet.stageId ?? null,
        })),
      )
    })
  const bringReadings = async () => {
    for await (const portion of portions()) {
      await write(db, (tx) =>
        insertMany(
          tx,
          readings,
          portion.map((reading) => ({
            ...reading,
            id: newId(),
            stationId,
            chainId: chainOf(reading.chainId),
            roundId: fresh(`round/${reading.roundId}`),
            instrumentId:
              reading.instrumentId === null
                ? null
                : (renamed.get(`gear/${reading.instrumentId}`) ?? null),
            chainRevision: 1,
          })),
        ),
      )
      await letOthers()
    }
  }
  await arrive(
    db,
    { stationId, chainId: null },
    async (mark) => {
      await bringWithoutReadings(mark)
      await bringReadings()
      await byPortions(roundIds, (ids) => write(db, (tx) => refreshRounds(tx, ids)))
    },
    (tx) => tx.update(stations).set({ deletedAt: null }).where(eq(stations.id, stationId)),
  )
  return readStation(db, stationId)
}
