import type { StageDocument } from '@saltline/contract'
import { layOut, type SpineSlots } from './geometry.ts'

/** Sizes of the lying spine, px: the watts' axis, the antenna's end, and the rows from the top. */
export const AXIS = 62
export const ANTENNA = 132
export const TOP = 32
export const BAND = 132
export const RETURNED_GAP = 7
export const RETURNED_MOST = 26
export const ROW = 96
/** More than this many stages stand closer, in smaller type. */
const CROWD = 9

export const isCrowded = (stages: readonly StageDocument[]): boolean => stages.length > CROWD

/** Where everything sits on a lying spine of this width; what is drawn under it takes the same slots. */
export const lyingSlots = (stages: readonly StageDocument[], width: number): SpineSlots =>
  layOut(stages, {
    available: width - AXIS - ANTENNA,
    transmitter: isCrowded(stages) ? 84 : 112,
    least: 60,
    device: isCrowded(stages) ? 62 : 88,
  })
