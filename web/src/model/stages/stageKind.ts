import type { Figure, StageDocument } from '@saltline/contract'
import type { LengthUnit, Solution, Spread, StageState } from '@saltline/core'
import type { Steps } from '../working.ts'

/** A stage before it has an identity and a name. */
export type Bare<T> = T extends unknown ? Omit<T, 'id' | 'name'> : never

/** One way to begin a stage: an entry of the menus that insert. */
export interface Choice {
  choice: string
  label: string
  hint: string
  /** With figures that are typical, on a frequency where they depend on it. */
  make: (hz: number) => Bare<StageDocument>
}

/** What its figures range over, where they are not known more closely. */
export type StageRanges = Spread['stages'][number]

/** Everything that is said of a kind of stage and needs no screen. */
export interface StageKind<S> {
  title: (stage: S) => string
  /** Strokes in a field of 24 × 20: what it does, not what a maker’s case looks like; null for a cable, which is drawn. */
  icon: (stage: S) => string | null
  /** The figure under its name. ✕ and ▲ begin what cannot stay. */
  figure: (
    stage: S,
    hz: number,
    unit: LengthUnit,
    state: StageState | undefined,
    range?: StageRanges,
  ) => string
  /** Fields of its panel, where it has no component of its own. */
  figures?: readonly Figure[]
  /** Why figures cannot stand beside each other; null where they can. */
  refuse?: (stage: S) => string | null
  /** What changed, beside name and bypass, a phrase each. */
  changes: (before: S, after: S) => string[]
  /** How its loss is worked out. */
  steps: (stage: S, solution: Solution, k: number) => Steps
  choices: readonly Choice[]
}
