/** What is due at a station: its duties held against its record. */
import type { ChainDocument, Duty, OfferedDuty, Station } from '@saltline/contract'
import { type YearSeries, yearSeries } from '@saltline/core'
import type { Database } from '../db/open.ts'
import { asMean } from '../store/alerts.ts'
import { readChain } from '../store/chains.ts'
import { answeredOffers, type KeptDuty, keptDuties } from '../store/duties.ts'
import { listEvents } from '../store/events.ts'
import { readStation } from '../store/stations.ts'
import { listThings } from '../store/things.ts'
import { weekRows } from '../store/years.ts'
import { dayIn, daysAhead, dueOn } from './due.ts'
import { forChains, forStations } from './shipped.ts'
import { type Context, SPAN_MS, judgedBy, recorded } from './record.ts'

interface Asked {
  zone: string
  /** ms */
  now?: number
}

/**
 * Every duty of a station with when it is due and why, what is due first before what is due later; those without a day
 * at the end.
 */
export async function listDuties(
  db: Database,
  stationId: string,
  { zone, now = Date.now() }: Asked,
): Promise<Duty[]> {
  const station = await readStation(db, stationId)
  const context = await contextOf(db, station, zone, now)
  const kept = (await keptDuties(db, stationId)).filter(
    // What belongs to a chain or a thing that was deleted waits in the bin with it.
    ({ body: { chainId, thingId } }) =>
      (chainId === null || context.documents.has(chainId)) &&
      (thingId === null || context.things.has(thingId)),
  )
  const duties = await Promise.all(kept.map((duty) => stateOf(context, duty)))
  return duties.sort(
    (a, b) => (a.due ?? '9').localeCompare(b.due ?? '9') || a.title.localeCompare(b.title),
  )
}

/** What ships and fits, and was neither taken nor declined. */
export async function offeredDuties(
  db: Database,
  stationId: string,
  { zone, now = Date.now() }: Asked,
): Promise<OfferedDuty[]> {
  const station = await readStation(db, stationId)
  const context = await contextOf(db, station, zone, now)
  const answered = await answeredOffers(db, stationId)
  const offered = [
    ...forStations
      .filter(({ fits }) => fits(station))
      .map(({ fits: _, name, ...asked }) => ({
        ...asked,
        chainId: null,
        thingId: null,
        shipped: name,
      })),
    ...station.chains.flatMap(({ id }) =>
      forChains
        .filter(({ fits }) => fits(context.documents.get(id)!))
        .map(({ fits: _, name, ...asked }) => ({
          ...asked,
          chainId: id,
          thingId: null,
          shipped: `${name} ${id}`,
        })),
    ),
  ].filter(({ shipped }) => !answered.has(shipped))
  return Promise.all(
    offered.map(async (asked) => ({
      ...asked,
      from: context.today,
      chain: asked.chainId === null ? null : context.documents.get(asked.chainId)!.name,
      last: (await recorded(context, asked))?.on ?? null,
    })),
  )
}

async function contextOf(
  db: Database,
  { id: stationId, chains }: Station,
  zone: string,
  now: number,
): Promise<Context> {
  const documents = new Map(
    await Promise.all(
      chains.map(async ({ id }) => [id, (await readChain(db, id)).document] as const),
    ),
  )
  const owned = await listThings(db, stationId)
  const things = new Map(owned.map(({ id, mark, name }) => [id, `${mark} ${name}`]))
  const read = new Map<string, Promise<Map<string, YearSeries[]>>>()
  return {
    ...{ db, stationId, zone, now, documents, things, today: dayIn(zone, new Date(now)) },
    series(chainId) {
      const known = read.get(chainId) ?? seriesOf(db, chainId, documents.get(chainId)!, now)
      read.set(chainId, known)
      return known
    },
  }
}

/** By channel. */
async function seriesOf(db: Database, chainId: string, { stages }: ChainDocument, now: number) {
  const places = [...stages.map(({ id }) => id), 'load']
  const weeks = await weekRows(db, chainId, new Date(now - SPAN_MS).toISOString())
  return new Map(
    [...weeks].map(([channelId, rows]) => [channelId, yearSeries(rows.map(asMean), places)]),
  )
}

async function stateOf(context: Context, { id, body, marks }: KeptDuty): Promise<Duty> {
  const { db, documents, today } = context
  const { chainId, months, afterEvent, from } = body
  const [ticked] = marks
    .filter(({ kind, on }) => kind === 'done' && on <= today)
    .map(({ on }) => on)
    .sort()
    .reverse()
  const known = await recorded(context, body)
  const last =
    ticked !== undefined && (known === null || ticked >= known.on)
      ? { on: ticked, how: 'ticked' as const }
      : known
  const events =
    afterEvent === null || chainId === null
      ? []
      : (await listEvents(db, chainId)).filter(
          ({ on, text }) => on <= today && text.toLowerCase().includes(afterEvent.toLowerCase()),
        )
  const event = events.at(-1) ?? null
  const judged = await judgedBy(context, body, last?.on ?? null)
  const [putOff] = marks.filter(({ kind }) => kind === 'put off')
  const due = dueOn({
    ...{ months, from, last: last?.on ?? null, event: event?.on ?? null },
    sooner: judged?.sooner ?? null,
    putOff: putOff ? { until: putOff.on, said: dayIn(context.zone, new Date(putOff.at)) } : null,
  })
  const because =
    due === null
      ? null
      : due === putOff?.on
        ? `put off: ${putOff.reason}`
        : due === event?.on
          ? `${event.text}`
          : due === judged?.sooner
            ? judged.because
            : null
  return {
    ...body,
    id,
    chain: chainId === null ? null : documents.get(chainId)!.name,
    thing: body.thingId === null ? null : context.things.get(body.thingId)!,
    ...{ last, due, because, marks: marks.slice(0, 50), ahead: daysAhead(due, months, today) },
    stretchTo: judged?.stretchTo ?? null,
  }
}
