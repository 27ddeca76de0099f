import { expectedSweep, frequencyGrid, writeTouchstone } from '@saltline/core'
import type { ChainDocument } from '@saltline/contract'

/** A sweep at the input of the desk lead, or of all stages where there is none, with a joint of 15 Ω in front of the arrester; an antenna is 60 Ω. */
export function sweepOf(
  { transmitter, stages }: Pick<ChainDocument, 'transmitter' | 'stages'>,
  joint: boolean,
  farEnd: 'open' | 'antenna' = 'open',
): string {
  const from = Math.max(
    0,
    stages.findIndex(({ id }) => id === 'desk'),
  )
  const parts = stages.slice(from)
  const bad = [
    ...parts.slice(0, 1),
    ...(joint ? [{ kind: 'series' as const, rOhm: 15, xOhm: 0 }] : []),
    ...parts.slice(1),
  ]
  const load = { kind: 'fixed' as const, rOhm: 60, xOhm: 0 }
  const hz = frequencyGrid(10e6, 500e6, 401)
  const { re, im } = expectedSweep({ transmitter, stages: bad, load }, 0, hz, farEnd)
  return writeTouchstone({ referenceOhm: 50, frequencyHz: hz, re, im, comments: [] })
}
