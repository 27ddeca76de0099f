/** What older versions let in and this one would stumble on, put right where it lies. */
import { plainText } from '@saltline/contract'
import { type Column, getTableColumns, getTableName } from 'drizzle-orm'
import type { Client } from '@libsql/client/sqlite3'
import { allTables } from './tables.ts'

/** Raised with every mending; a database notes the last one it has seen in its head (`user_version`). */
const MENDED = 1

/** Rows that are read at once. */
const PORTION = 500

/** Takes control characters out of every text, once in the life of a database; all of it or nothing. */
export async function mend(client: Client): Promise<void> {
  const [version] = (await client.execute('PRAGMA user_version')).rows
  if (Number(version?.[0]) >= MENDED) return
  const tx = await client.transaction('write')
  try {
    for (const table of allTables) {
      const texts = (Object.values(getTableColumns(table)) as Column[])
        .filter((column) => column.getSQLType() === 'text')
        .map(({ name }) => `"${name}"`)
      if (texts.length > 0) await mendTable(tx, `"${getTableName(table)}"`, texts)
    }
    await tx.execute(`PRAGMA user_version = ${MENDED}`)
    await tx.commit()
  } finally {
    tx.close()
  }
}

async function mendTable(
  tx: Pick<Client, 'execute'>,
  table: string,
  columns: readonly string[],
): Promise<void> {
  // Hexadecimal, since the driver cuts a text at its first NUL.
  const asHex = columns.map((column) => `hex(${column})`).join(', ')
  for (let last = -1; ;) {
    const { rows } = await tx.execute({
      sql: `SELECT rowid, ${asHex} FROM ${table} WHERE rowid > ? ORDER BY rowid LIMIT ${PORTION}`,
      args: [last],
    })
    for (const row of rows)
      for (const [i, column] of columns.entries()) {
        if (row[i + 1] === null) continue
        const text = Buffer.from(String(row[i + 1]), 'hex').toString('utf8')
        const mended = mendText(text, column)
        if (mended !== text)
          await tx.execute({
            sql: `UPDATE ${table} SET ${column} = ? WHERE rowid = ?`,
            args: [mended, row[0]!],
          })
      }
    if (rows.length < PORTION) return
    last = Number(rows.at(-1)![0])
  }
}

/** Columns of JSON; inside of it the characters stand as escapes. */
const DOCUMENTS = new Set(['"body"', '"document"', '"inputs"', '"result"'])

function mendText(text: string, column: string): string {
  if (!DOCUMENTS.has(column)) return column === '"note"' ? plainText(text) : plainLine(text)
  if (!/\\[unrt]/.test(text)) return text
  try {
    return JSON.stringify(
      JSON.parse(text, (name, value: unknown) => {
        if (typeof value !== 'string') return value
        // A sheet keeps what was typed, in lines or not.
        return name === 'note' || column === '"inputs"' ? plainText(value) : plainLine(value)
      }),
    )
  } catch {
    return text
  }
}

/** A text of one line; one of which nothing would be left is a question. */
function plainLine(text: string): string {
  const line = plainText(text).replace(/[\n\t]+/g, ' ')
  return line.trim() === '' && text !== '' ? '?' : line
}
