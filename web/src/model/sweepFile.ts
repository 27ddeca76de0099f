/** What a sweep file can be. */
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

/** Files that the page takes when they are chosen or dropped. */
export const SWEEP_FILES = '.s1p,.S1P,.s2p,.S2P,.csv,.CSV,.tsv,.txt'

export const isTwoPort = (name: string): boolean => /\.s2p$/i.test(name)
export const isTouchstone = (name: string): boolean => /\.s\dp$/i.test(name)
