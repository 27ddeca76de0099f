import type { Backup } from '@saltline/contract'
import { sql } from 'drizzle-orm'
import type { Database } from '../db/connection.ts'

/** What a database holds: its stations, how much of a record each has, and from when to when. */
export async function holdsOf(db: Database): Promise<Backup> {
  const stations = await db.all<Backup['stations'][number]>(sql`
    SELECT s.name AS name,
      (SELECT count(*) FROM chains c WHERE c.station_id = s.id AND c.deleted_at IS NULL) AS chains,
      count(r.n) AS readings, min(r.read_at) AS "firstAt", max(r.read_at) AS "lastAt"
    FROM stations s LEFT JOIN readings r ON r.station_id = s.id AND r.deleted_at IS NULL
    WHERE s.deleted_at IS NULL GROUP BY s.id ORDER BY s.created_at`)
  const edited = await db.get<{ at: string | null }>(
    sql`SELECT max(saved_at) AS at FROM chain_revisions`,
  )
  return { stations, editedAt: edited.at }
}
