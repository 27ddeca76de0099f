/** What a sweep file can be. */
import { MOST_SWEEP_TEXT } from '@saltline/contract'
import type { ColumnMapping, OnePortSweep, SweepTable, Thinned } from '@saltline/core'

/** A look into a table: enough to map its columns by, without sending all of it. */
export interface TablePreview {
  headings: string[]
  rowCount: number
  /** The first rows. */
  rows: number[][]
  guess: ColumnMapping
}

export type SweepFile =
  | { kind: 'sweep'; sweep: OnePortSweep; phaseKnown: boolean }
  | { kind: 'table'; table: TablePreview }
  | { kind: 'twoPort'; thinned: Thinned; pointCount: number }

const PREVIEW_ROWS = 5

export const previewOf = (table: SweepTable, guess: ColumnMapping): TablePreview => ({
  headings: table.headings,
  rowCount: table.lines.length,
  rows: table.lines.slice(0, PREVIEW_ROWS).map((_, i) => table.columns.map((column) => column[i]!)),
  guess,
})

/** The text of a sweep; of a larger file it is said that it is none. */
export async function sweepText(file: File): Promise<string> {
  if (file.size > MOST_SWEEP_TEXT) throw new Error(`${file.name} is too large for a sweep.`)
  return file.text()
}

/** Files that the page takes when they are chosen or dropped. */
export const SWEEP_FILES = '.s1p,.S1P,.s2p,.S2P,.csv,.CSV,.tsv,.txt'

export const isTwoPort = (name: string): boolean => /\.s2p$/i.test(name)
export const isTouchstone = (name: string): boolean => /\.s\dp$/i.test(name)
