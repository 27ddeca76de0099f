import type { WorksheetKind } from '@saltline/contract'
import type { Worksheet } from '../worksheet.ts'
import { amDepth } from './amDepth.tsx'
import { bothEnds } from './bothEnds.tsx'
import { calibration } from './calibration.tsx'
import { converter } from './converter.tsx'
import { dummyLoad } from './dummyLoad.tsx'
import { leads } from './leads.tsx'
import { onePort } from './onePort.tsx'
import { probe } from './probe.tsx'
import { ranges } from './ranges.tsx'
import { substitution } from './substitution.tsx'
import { throughLine } from './throughLine.tsx'
import { twoMeters } from './twoMeters.tsx'
import { velocity } from './velocity.tsx'

/** A worksheet whose inputs nobody but itself looks into. */
export type AnyWorksheet = Worksheet<Record<string, unknown>>

/** All worksheets, in the order of the bench. */
export const worksheets = [
  substitution,
  leads,
  bothEnds,
  onePort,
  velocity,
  throughLine,
  ranges,
  twoMeters,
  calibration,
  probe,
  amDepth,
  dummyLoad,
  converter,
] as unknown as readonly AnyWorksheet[]

export const worksheetOf = (kind: string | null): AnyWorksheet =>
  worksheets.find((sheet) => sheet.kind === kind) ?? worksheets[0]!

export const titleOf = (kind: WorksheetKind): string => worksheetOf(kind).title
