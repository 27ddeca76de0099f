import type { Cable } from '../line/cable.ts'
import type { Stage } from './stage.ts'

/** A section with another cable: a new one, so it is not aged, and what was known of the old one's limits is gone. */
export function withCable<S extends Stage>(stage: S, cable: Cable): S {
  const { ageing: _, ...rest } = stage as S & { ageing?: unknown }
  return { ...rest, cable } as unknown as S
}
