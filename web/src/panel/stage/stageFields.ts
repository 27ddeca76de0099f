import type { StageDocument } from '@saltline/contract'

/** What a stage's fields are given: the stage, a way to change it, and the channel's frequency. */
export interface StageFields<K extends StageDocument['kind']> {
  stage: Extract<StageDocument, { kind: K }>
  change: (part: Partial<Extract<StageDocument, { kind: K }>>) => void
  hz: number
}
