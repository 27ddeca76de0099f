/** Rows of readings, held against the chain as it stood when they were taken. */
import {
  type ChainDocument,
  type ImportedReading,
  type InstrumentDocument,
  newId,
  type ReadingBody,
  whyNotThen,
} from '@saltline/contract'
import { calibratedMeter, correctedW, usualMeter } from '@saltline/core'
import { eq } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { gear, type readings } from '../db/schema.ts'
import { invalid } from './errors.ts'
import { chainOfDocument } from './antennas.ts'
import { expectations } from './expected.ts'
import { placeName, planeOf } from './places.ts'

type NewRow = typeof readings.$inferInsert & { readAt: string }
/** A row whose round is not yet known. */
export type Roundless = Omit<NewRow, 'roundId'> & { roundId: string | undefined }
export type Path = readonly (string | number)[]

/** A chain as it stood when readings were taken. */
interface ChainThen {
  document: ChainDocument
  stationId: string
  chainId: string
  revision: number
}

/** Makes rows of readings on a chain; a body that does not fit it is refused at its place. */
export async function rowsOf(
  db: Database,
  { document, stationId, chainId, revision }: ChainThen,
): Promise<(body: ImportedReading, path: Path) => Roundless> {
  const expect = expectations(await chainOfDocument(db, document), document)
  const instruments = await instrumentsOf(db, stationId)
  const now = Date.now()
  return (body, path) => {
    const plane = planeOf(document, body.before)
    if (plane === null)
      throw invalid(
        [...path, 'before'],
        `“${body.before}” is no place on this chain. Known are ${placesKnown(document)}.`,
      )
    const early = body.readAt && whyNotThen(body.readAt, now)
    if (early) throw invalid([...path, 'readAt'], early)
    const instrument = body.instrumentId ? instruments.get(body.instrumentId) : undefined
    if (body.instrumentId && !instrument)
      throw invalid(
        [...path, 'instrumentId'],
        'This station has no such instrument. Add it under Gear, or leave it out.',
      )
    const of = { stationId, chainId }
    // Which revision it was held against then is not in a log: that of its day is looked for.
    if (body.kept) return newRow({ ...of, chainRevision: null }, body, body.kept)
    const read = corrected(body, instrument)
    const meter = instrument ? calibratedMeter(instrument) : usualMeter
    const shown: Partial<ReadingBody> = instrument?.calibration ? body : {}
    return newRow({ ...of, chainRevision: revision }, read, {
      place: placeName(document, plane),
      instrument: instrument?.name ?? '',
      shownForwardW: shown.forwardW ?? null,
      shownReflectedW: shown.reflectedW ?? null,
      ...expect(read, plane, meter),
    })
  }
}

/** A reading of a calibrated instrument, put right. */
function corrected(body: ReadingBody, instrument: InstrumentDocument | undefined): ReadingBody {
  const points = instrument?.calibration?.points
  if (!points) return body
  const { forwardW, reflectedW } = body
  return {
    ...body,
    ...(forwardW !== undefined && { forwardW: correctedW(points, forwardW) }),
    ...(reflectedW !== undefined && { reflectedW: correctedW(points, reflectedW) }),
  }
}

const placesKnown = ({ stages }: ChainDocument): string =>
  [...stages.map(({ id }) => id), 'load'].map((id) => `“${id}”`).join(', ')

function newRow(
  of: Pick<Roundless, 'stationId' | 'chainId' | 'chainRevision'>,
  body: ReadingBody,
  kept: NonNullable<ImportedReading['kept']>,
): Roundless {
  return {
    id: newId(),
    ...of,
    roundId: body.roundId,
    channelId: body.channelId ?? null,
    frequencyHz: body.frequencyHz,
    mode: body.mode,
    meanToPeak: body.meanToPeak ?? null,
    powerW: body.powerW,
    before: body.before,
    farEnd: body.farEnd ?? 'antenna',
    forwardW: body.forwardW ?? null,
    reflectedW: body.reflectedW ?? null,
    swr: body.swr ?? null,
    rangeW: body.rangeW ?? null,
    instrumentId: body.instrumentId ?? null,
    supplyV: body.supplyV ?? null,
    weather: body.weather ?? '',
    by: body.by ?? '',
    note: body.note ?? '',
    readAt: body.readAt ?? new Date().toISOString(),
    ...kept,
  }
}

async function instrumentsOf(
  db: Database,
  stationId: string,
): Promise<Map<string, InstrumentDocument>> {
  const rows = await db.select().from(gear).where(eq(gear.stationId, stationId))
  return new Map(
    rows.flatMap(({ id, body }) => (body.kind === 'instrument' ? [[id, body.document]] : [])),
  )
}
