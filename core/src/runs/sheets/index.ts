/** The sheets that ship. A new one is a file beside this one and a line here. */
import type { RunSheet } from '../sheet.ts'
import { afterStorm } from './afterStorm.ts'
import { amplifierLoading } from './amplifierLoading.ts'
import { amplifierWithTuner } from './amplifierWithTuner.ts'
import { automaticTuner } from './automaticTuner.ts'
import { beforeKeying } from './beforeKeying.ts'
import { cableAcceptance } from './cableAcceptance.ts'
import { handTuner } from './handTuner.ts'
import { intoDummyLoad } from './intoDummyLoad.ts'
import { worthOfTunerByMeter } from './worthOfTuner.ts'
import { yearly } from './yearly.ts'

export const runSheets: readonly RunSheet[] = [
  beforeKeying,
  handTuner,
  automaticTuner,
  amplifierLoading,
  amplifierWithTuner,
  intoDummyLoad,
  worthOfTunerByMeter,
  cableAcceptance,
  yearly,
  afterStorm,
]
