import { type Attempt, type AttemptBody, idSchema } from '@saltline/contract'
import { desc, eq } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { attempts } from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { missing } from './errors.ts'
import { readStation } from './stations.ts'

/** As many as progress is told from. */
const MOST = 500

const asAttempt = ({ id, at, body }: typeof attempts.$inferSelect): Attempt => ({
  ...body,
  id,
  at,
})

/** A station's attempts, newest first. */
export async function listAttempts(db: Database, stationId: string): Promise<Attempt[]> {
  await readStation(db, stationId)
  const rows = await db
    .select()
    .from(attempts)
    .where(eq(attempts.stationId, stationId))
    .orderBy(desc(attempts.at))
    .limit(MOST)
  return rows.map(asAttempt)
}

/** Keeps an attempt under the identity that it was given where it was made: the same one again changes nothing. */
export async function keepAttempt(
  db: Database,
  stationId: string,
  id: string,
  body: AttemptBody,
): Promise<Attempt> {
  await readStation(db, stationId)
  if (!idSchema.safeParse(id).success) throw missing('attempt')
  const now = new Date().toISOString()
  const at = body.at !== undefined && body.at < now ? body.at : now
  await write(db, (tx) =>
    tx.insert(attempts).values({ id, stationId, body, at }).onConflictDoNothing(),
  )
  const [row] = await db.select().from(attempts).where(eq(attempts.id, id))
  if (!row || row.stationId !== stationId) throw missing('attempt')
  return asAttempt(row)
}
