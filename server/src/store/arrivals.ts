/**
 * What comes in by portions, so that a reading that is typed meanwhile need not wait for all of it: nobody sees it before
 * it is whole, and nothing of it is left where it does not become so.
 */
import { setTimeout as pause } from 'node:timers/promises'
import { newId } from '@saltline/contract'
import { and, eq } from 'drizzle-orm'
import { type Database, isAlive } from '../db/open.ts'
import { arrivals, readings } from '../db/schema.ts'
import { heedless } from '../db/stopping.ts'
import { type Transaction, write } from '../db/writes.ts'
import { removeStations } from './bin.ts'
import { arriving } from './marks.ts'
import { withdrawReadings } from './rounds.ts'

/** Rows of one transaction at most. */
export const PORTION = 2000
/** Fewer are not worth a transaction of their own. */
const LEAST = 250
/** How long a transaction shall hold others up, ms: portions become as large as that allows. */
const HOLD_MS = 120

/** Whoever waits for the database asks again within this time, ms. */
const GAP_MS = 60

type Arrival = typeof arrivals.$inferSelect

/**
 * @param bring writes the rows, marked, by transactions of their own
 * @param show takes the mark away from what can be seen, in one transaction
 * @throws what `bring` and `show` throw; nothing is left then
 */
export async function arrive<T>(
  db: Database,
  of: { stationId: string; chainId: string | null },
  bring: (mark: string) => Promise<void>,
  show: (tx: Transaction, mark: string) => Promise<T>,
): Promise<T> {
  const arrival: Arrival = {
    id: newId(),
    ...of,
    pid: process.pid,
    startedAt: new Date().toISOString(),
  }
  const mark = arriving(arrival.id)
  await write(db, (tx) => tx.insert(arrivals).values(arrival))
  try {
    await bring(mark)
    return await write(db, async (tx) => {
      const shown = await show(tx, mark)
      await tx.delete(arrivals).where(eq(arrivals.id, arrival.id))
      return shown
    })
  } catch (error) {
    // Where it cannot be taken out now, the next start does it.
    await heedless(() => withdraw(db, arrival)).catch(() => undefined)
    throw error
  }
}

/** Between two portions, others write. */
export const letOthers = (): Promise<void> => pause(GAP_MS)

/** Does something with each portion of a list, and lets others write in between; on a slow machine portions are smaller. */
export async function byPortions<T>(
  items: readonly T[],
  run: (portion: T[], from: number) => Promise<unknown>,
): Promise<void> {
  let size = LEAST
  for (let from = 0; from < items.length;) {
    if (from > 0) await letOthers()
    const portion = items.slice(from, from + size)
    const began = performance.now()
    await run(portion, from)
    from += portion.length
    size = sizeAfter(size, performance.now() - began)
  }
}

/** How many rows the next transaction has, where one of so many took so long, ms. */
export const sizeAfter = (size: number, tookMs: number): number =>
  Math.round(Math.min(PORTION, 2 * size, Math.max(LEAST, (size * HOLD_MS) / Math.max(1, tookMs))))

function withdraw(db: Database, { id, stationId, chainId }: Arrival): Promise<void> {
  return write(db, async (tx) => {
    if (chainId === null) await removeStations(tx, [stationId])
    else
      await withdrawReadings(
        tx,
        and(eq(readings.chainId, chainId), eq(readings.deletedAt, arriving(id)))!,
      )
    await tx.delete(arrivals).where(eq(arrivals.id, id))
  })
}

/** Takes out what never became whole: its process was killed, or could not do it any more. */
export async function withdrawLeft(db: Database): Promise<void> {
  for (const arrival of await db.select().from(arrivals))
    if (!isAlive(arrival.pid)) await withdraw(db, arrival)
}
