import type { StageDocument } from '@saltline/contract'
import type { PanelProps } from '../panelProps.ts'

/** What a stage's fields are given: the stage and its place, a way to change it, and the channel's frequency. */
export interface StageFields<K extends StageDocument['kind']> extends PanelProps {
  stage: Extract<StageDocument, { kind: K }>
  index: number
  change: (part: Partial<Extract<StageDocument, { kind: K }>>) => void
  hz: number
}
