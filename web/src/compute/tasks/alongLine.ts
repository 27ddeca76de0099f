/** What a sweep file says of the places along a line, or, before there is one, what one should show. */
import {
  alongLine,
  type AlongLine,
  type Chain,
  expectedSweep,
  type FarEnd,
  frequencyGrid,
  readTouchstone,
  REFERENCE_OHM,
} from '@saltline/core'
import type { SweepPlan } from '../../model/alongLine.ts'
import type { Task } from '../task.ts'

export interface AlongRequest {
  chain: Chain
  plane: number
  farEnd: FarEnd
  /** A Touchstone file; null for a sweep that is only planned. */
  text: string | null
  plan: SweepPlan
}

export interface Along extends AlongLine {
  lowHz: number
  highHz: number
  points: number
}

export const alongLineTask: Task<AlongRequest, Along> = ({ chain, plane, farEnd, text, plan }) => {
  const sweep =
    text === null
      ? expectedSweep(chain, plane, frequencyGrid(plan.lowHz, plan.highHz, plan.points), farEnd)
      : readTouchstone(text, REFERENCE_OHM)
  const hz = sweep.frequencyHz
  return {
    ...alongLine(chain, plane, sweep, farEnd),
    lowHz: Math.min(hz[0]!, hz[hz.length - 1]!),
    highHz: Math.max(hz[0]!, hz[hz.length - 1]!),
    points: hz.length,
  }
}
