/** Which readings of a table are in the log already, so that the same table can come twice. */
import type { ImportedReading } from '@saltline/contract'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { readings } from '../db/schema.ts'
import { byPortions } from './arrivals.ts'
import { readChain } from './chains.ts'

type Facts = Pick<
  typeof readings.$inferSelect,
  'readAt' | 'before' | 'farEnd' | 'frequencyHz' | 'mode' | 'forwardW' | 'reflectedW' | 'swr'
>

/** Figures of a file have fewer digits than those that are kept. */
const DIGITS = 10

/** Two readings with the same figures at the same moment and place are one reading. */
const keyOf = (reading: Facts): string => {
  const { readAt, before, farEnd, frequencyHz, mode, forwardW, reflectedW, swr } = reading
  return JSON.stringify([
    Date.parse(readAt),
    before,
    farEnd,
    mode,
    ...[frequencyHz, forwardW, reflectedW, swr].map((figure) => figure?.toPrecision(DIGITS)),
  ])
}

/**
 * The places in `bodies` of readings that the chain's log has. What stands in the table more often than in the log is
 * new from there on; what has no date is always new.
 */
export async function alreadyHere(
  db: Database,
  chainId: string,
  bodies: readonly ImportedReading[],
): Promise<number[]> {
  const { stationId } = await readChain(db, chainId)
  const already: number[] = []
  const counts = new Map<string, number>()
  const asked = new Set<string>()
  await byPortions(bodies, async (portion, from) => {
    const moments = [...new Set(portion.flatMap(({ readAt }) => readAt ?? []))].filter(
      (moment) => !asked.has(moment),
    )
    moments.forEach((moment) => asked.add(moment))
    const rows = await db
      .select()
      .from(readings)
      .where(
        and(
          eq(readings.stationId, stationId),
          eq(readings.chainId, chainId),
          isNull(readings.deletedAt),
          sql`${readings.readAt} IN (SELECT value FROM json_each(${JSON.stringify(moments)}))`,
        ),
      )
    for (const row of rows) {
      const key = keyOf({
        ...row,
        // A table has what the meter showed; what was corrected comes with what it was before.
        forwardW: row.shownForwardW ?? row.forwardW,
        reflectedW: row.shownReflectedW ?? row.reflectedW,
      })
      counts.set(key, (counts.get(key) ?? 0) + 1)
    }
    portion.forEach((body, i) => {
      if (body.readAt === undefined) return
      const key = keyOf({
        ...body,
        readAt: body.readAt,
        farEnd: body.farEnd ?? 'antenna',
        forwardW: body.kept?.shownForwardW ?? body.forwardW ?? null,
        reflectedW: body.kept?.shownReflectedW ?? body.reflectedW ?? null,
        swr: body.swr ?? null,
      })
      const left = counts.get(key) ?? 0
      if (left === 0) return
      counts.set(key, left - 1)
      already.push(from + i)
    })
  })
  return already
}
