/** Rows by the thousand. */
import { getTableColumns, sql } from 'drizzle-orm'
import type { SQLiteTable } from 'drizzle-orm/sqlite-core'
import type { Transaction } from './writes.ts'

/** Values that one statement may carry; SQLite takes no more than 32 766. */
const MOST_VALUES = 12_000

/** Inserts rows of any number; the statement is built once for as many as fit into one. */
export async function insertMany<T extends SQLiteTable>(
  tx: Transaction,
  table: T,
  rows: readonly T['$inferInsert'][],
): Promise<void> {
  const names = Object.keys(getTableColumns(table)).filter((name) =>
    rows.some((row) => (row as Record<string, unknown>)[name] !== undefined),
  )
  const portion = Math.max(1, Math.floor(MOST_VALUES / names.length))
  const whole = Math.floor(rows.length / portion)
  if (whole > 1) {
    const places = Array.from({ length: portion }, (_, i) => names.map((name) => `${name} ${i}`))
    const statement = tx
      .insert(table)
      .values(
        places.map((own) =>
          Object.fromEntries(names.map((name, j) => [name, sql.placeholder(own[j]!)])),
        ) as T['$inferInsert'][],
      )
      .prepare()
    const values: Record<string, unknown> = {}
    for (let k = 0; k < whole; k++) {
      places.forEach((own, i) => {
        const row = rows[k * portion + i] as Record<string, unknown>
        own.forEach((place, j) => (values[place] = row[names[j]!] ?? null))
      })
      await statement.execute(values)
    }
  }
  const rest = rows.slice(whole > 1 ? whole * portion : 0)
  for (let i = 0; i < rest.length; i += portion)
    await tx.insert(table).values(rest.slice(i, i + portion))
}
