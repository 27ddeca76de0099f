/** Readings as JSON, written by SQLite itself. */
import { type Reading, readingSchema } from '@saltline/contract'
import { getTableColumns, type SQL, type SQLWrapper, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { readings } from '../db/schema.ts'

/**
 * The fields of a reading as JSON values, made by SQLite. Exact, figures have all their digits; else they have fifteen, and
 * what is true is 1.
 */
function valuesOf(fields: readonly (keyof Reading)[], exact: boolean): SQL[] {
  const columns = getTableColumns(readings)
  return fields.map((name) => {
    const column = columns[name]
    const plain = sql`${sql.identifier(column.name)}`
    if (column.dataType === 'boolean' && exact) return sql`json(iif(${plain}, 'true', 'false'))`
    return exact && column.getSQLType() === 'real'
      ? sql`iif(${plain} IS NULL, NULL, json(printf('%!.17g', ${plain})))`
      : plain
  })
}

const fieldNames = Object.keys(readingSchema.shape) as (keyof Reading)[]

/** A reading as a JSON object. */
export const object = sql`json_object(${sql.join(
  valuesOf(fieldNames, true).map((value, i) => sql`${sql.raw(`'${fieldNames[i]}'`)}, ${value}`),
  sql`, `,
)})`

/** Some of its fields as a JSON array: read twice as fast. */
export const array = (fields: readonly (keyof Reading)[]): SQL =>
  sql`json_array(${sql.join(valuesOf(fields, false), sql`, `)})`

/** Between JSON values in a list. */
export const BETWEEN = ',\n'

/** What is selected of rows that are joined: one column, so that SQLite copies no others. */
export const texts = (value: SQL) => ({ text: value.as('text') })

/** Rows of one text each as one text, with something between them; nothing for no rows. */
export async function joined(db: Database, rows: SQLWrapper, between: string): Promise<string> {
  const { text } = await db.get<{ text: string | null }>(
    sql`SELECT group_concat(text, ${between}) AS text FROM ${rows}`,
  )
  return text ?? ''
}
