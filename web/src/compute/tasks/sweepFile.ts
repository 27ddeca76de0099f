/** Reads a sweep file: one of 20 MB must not freeze the page. */
import { MEASURED_POINTS } from '@saltline/contract'
import {
  type ColumnMapping,
  guessMapping,
  readSweepTable,
  readTouchstone,
  readTwoPort,
  REFERENCE_OHM,
  sweepFromTable,
  type SweepTable,
  thinTwoPort,
} from '@saltline/core'
import { isTouchstone, isTwoPort, previewOf, type SweepFile } from '../../model/sweepFile.ts'
import type { Task } from '../task.ts'

export interface SweepFileRequest {
  file: File
  /** Of a table: what its columns are; without it, the answer is a look into the table. */
  mapping?: ColumnMapping
}

/** The table that was read last: its columns may be named again and again. */
let known: { file: Pick<File, 'name' | 'size' | 'lastModified'>; table: SweepTable } | null = null

async function tableOf(file: File): Promise<SweepTable> {
  const { name, size, lastModified } = file
  const same =
    known?.file.name === name &&
    known.file.size === size &&
    known.file.lastModified === lastModified
  if (!known || !same)
    known = { file: { name, size, lastModified }, table: readSweepTable(await file.text()) }
  return known.table
}

export const sweepFileTask: Task<SweepFileRequest, SweepFile> = async ({
  file,
  mapping,
}): Promise<SweepFile> => {
  if (isTwoPort(file.name)) {
    const sweep = readTwoPort(await file.text(), REFERENCE_OHM)
    const pointCount = sweep.frequencyHz.length
    return { kind: 'twoPort', thinned: thinTwoPort(sweep, MEASURED_POINTS), pointCount }
  }
  if (isTouchstone(file.name))
    return {
      kind: 'sweep',
      sweep: readTouchstone(await file.text(), REFERENCE_OHM),
      phaseKnown: true,
    }
  const table = await tableOf(file)
  return mapping
    ? { kind: 'sweep', ...sweepFromTable(table, mapping, REFERENCE_OHM) }
    : { kind: 'table', table: previewOf(table, guessMapping(table)) }
}
