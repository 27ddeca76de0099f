import { type WorksheetKind, worksheetKinds } from '@saltline/contract'
import { worksheetWords } from '../../model/worksheetWords.ts'
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
export type AnyWorksheet = { kind: WorksheetKind; title: string; purpose: string } & Worksheet<
  Record<string, unknown>
>

/** The one place where a sheet's own inputs become anybody's: what it is given are its own, or its `initial`. */
const own = <I extends object>(sheet: Worksheet<I>) =>
  sheet as unknown as Worksheet<Record<string, unknown>>

const byKind: Record<WorksheetKind, Worksheet<Record<string, unknown>>> = {
  substitution: own(substitution),
  leads: own(leads),
  'both-ends': own(bothEnds),
  'one-port': own(onePort),
  'velocity-factor': own(velocity),
  'through-line': own(throughLine),
  'range-choice': own(ranges),
  'two-meters': own(twoMeters),
  calibration: own(calibration),
  probe: own(probe),
  'am-depth': own(amDepth),
  'dummy-load': own(dummyLoad),
  converter: own(converter),
}

/** In the order of the bench. */
export const worksheets: readonly AnyWorksheet[] = worksheetKinds.map((kind) => ({
  kind,
  ...worksheetWords[kind],
  ...byKind[kind],
}))

/** @returns undefined where an address names none that there is */
export const worksheetOf = (kind: string): AnyWorksheet | undefined =>
  worksheets.find((sheet) => sheet.kind === kind)

export const titleOf = (kind: WorksheetKind): string => worksheetWords[kind].title
