import type { StageDocument } from '@saltline/contract'
import { formatDb, formatImpedance, formatLength, type LengthUnit, padLossDb } from '@saltline/core'
import type { IconKind } from './StageIcon.tsx'

export const iconOf = (stage: StageDocument): IconKind =>
  stage.bypassed ? 'bypassed' : stage.kind === 'pad' ? stage.part : stage.kind

/** The figure under a stage's name. */
export function stageFigure(stage: StageDocument, hz: number, unit: LengthUnit): string {
  if (stage.bypassed) return 'bypassed'
  switch (stage.kind) {
    case 'line':
      return formatLength(stage.lengthM, unit)
    case 'pad':
      return formatDb(padLossDb(stage, hz))
    case 'measured':
      return 'measured'
    case 'series':
    case 'shunt':
      return formatImpedance({ re: stage.rOhm, im: stage.xOhm })
  }
}
