/** A chain on one frequency with its load turned all round the circle: what it comes to wherever the phase may be. */
import { complex } from '../complex.ts'
import { writeReflection } from '../load/load.ts'
import type { Stage } from '../stages/stage.ts'
import type { TunerSetting, TunerStage } from '../tuner/kinds.ts'
import { allRound, phases } from './allRound.ts'
import type { Jumps } from './phaseRing.ts'
import { type Chain, type OperatingPoint, referenceOf, type TunerSettings } from './chain.ts'
import { newPhasors } from './phasors.ts'
import { settingsByPhase } from './tunerSettings.ts'
import { matricesOf, walk } from './walk.ts'

/** Between so many neighbours a smooth figure is nearly a parabola. */
const EVEN = phases(48)
/** So many phases tell where relays jump, and every so many of them are looked at between two jumps. */
const SCAN = phases(3600)
const SCAN_KEPT = 10
/** A third setting may lie between two of relays where these come so near an extreme, in gaps down to this width, rad. */
const THIRD = { near: 0.02, downTo: (2 * Math.PI) / 20_000 }
/** Where a network comes to the end of its range figures bend, perhaps to an extreme if they come so near. */
const BEND = { near: 0.4, downTo: (2 * Math.PI) / 7200 }
/** A network whose part changes by more than this factor may have jumped to another match. */
const JUMP = 1.5

/** How the tuners of a chain stand all round: the same at any power. */
export interface Round {
  stages: readonly Stage[]
  /** Where they stand at a phase (rad); each is worked out once. */
  settingsAt: (phaseRad: number) => TunerSettings
  /** The phases to be looked at first. */
  first: readonly number[]
  /** What of it is not smooth. */
  breaks: 'nothing' | 'bends' | 'jumps'
}

/**
 * Finds out how the tuners of a chain stand all round, on the frequency of an operating point.
 *
 * @param given where tuners stand that do not set themselves for this load, by its phase
 */
export function roundOf(
  chain: Chain,
  at: OperatingPoint,
  given = settingsByPhase(chain, at),
): Round {
  const settle = tunersByPhase(chain, at.frequencyHz, given)
  // Knobs that were turned for another frequency were turned for the phase that the load has there.
  const already = at.settings ?? []
  const sets = (method: TunerStage['method']): boolean =>
    chain.stages.some(
      (stage, k) =>
        stage.kind === 'tuner' && stage.method === method && !stage.bypassed && !already[k],
    )
  const jumps = sets('stepped')
  const known = jumps ? aroundJumps(chain.stages, settle) : new Map<number, TunerSettings>()
  const first = jumps ? [...known.keys()].sort((a, b) => a - b) : EVEN
  return {
    stages: chain.stages,
    settingsAt(phaseRad) {
      let settings = known.get(phaseRad)
      if (!settings) known.set(phaseRad, (settings = settle(phaseRad)))
      return settings
    },
    first,
    breaks: jumps ? 'jumps' : sets('network') ? 'bends' : 'nothing',
  }
}

/** Where the tuners stand at even phases and at both sides of every jump. */
function aroundJumps(
  stages: readonly Stage[],
  settle: (phaseRad: number) => TunerSettings,
): Map<number, TunerSettings> {
  const found = new Map<number, TunerSettings>()
  let before = 0
  let settings = settle(0)
  SCAN.forEach((phase, i) => {
    const own = settle(phase)
    const jumped = !areSame(stages, settings, own)
    if (jumped) found.set(before, settings)
    if (jumped || i % SCAN_KEPT === 0) found.set(phase, own)
    before = phase
    settings = own
  })
  return found
}

/** What is worked out at every phase. */
export interface Turning<T> {
  /** Solves the chain at a phase (rad), with its tuners where they then stand. */
  solve: (phaseRad: number, settings: TunerSettings) => T
  /** The figures whose extremes count; as many each time. */
  figuresOf: (solved: T) => ArrayLike<number>
}

/**
 * Solves a chain at as many phases of its load as it takes to know the extremes of some figures to about 0.5 %.
 *
 * @returns in the order of the phases
 */
export function turnChain<T>(round: Round, { solve, figuresOf }: Turning<T>): T[] {
  const { settingsAt, breaks } = round
  interface Turned {
    settings: TunerSettings
    solved: T
    figures: ArrayLike<number>
  }
  const turned = (phase: number): Turned => {
    const settings = settingsAt(phase)
    const solved = solve(phase, settings)
    return { settings, solved, figures: figuresOf(solved) }
  }
  const jumps: Record<Round['breaks'], Jumps<Turned> | undefined> = {
    nothing: undefined,
    bends: {
      same: (a, b) => areAlike(round.stages, a.settings, b.settings),
      held: ({ figures }) => figures,
      ...BEND,
    },
    jumps: {
      same: (a, b) => areSame(round.stages, a.settings, b.settings),
      // Other tuners set themselves anew.
      held: ({ settings }, phase) =>
        figuresOf(
          solve(
            phase,
            settings.map((own, k) => (isRelays(round.stages[k]!) ? own : undefined)),
          ),
        ),
      ...THIRD,
    },
  }
  return allRound(round.first, turned, ({ figures }) => figures, jumps[breaks]).map(
    ({ solved }) => solved,
  )
}

/** Whether all relays stand the same. */
const areSame = (stages: readonly Stage[], a: TunerSettings, b: TunerSettings): boolean =>
  stages.every((stage, k) => !isRelays(stage) || isSame(a[k], b[k]))

const isRelays = (stage: Stage): boolean => stage.kind === 'tuner' && stage.method === 'stepped'

const isSame = (a: TunerSetting | undefined, b: TunerSetting | undefined): boolean =>
  a === b ||
  (a !== undefined &&
    b !== undefined &&
    a.elements.length === b.elements.length &&
    a.elements.every(
      ({ part, value }, i) => part === b.elements[i]!.part && value === b.elements[i]!.value,
    ))

/** Whether all networks match or do not, with the same parts at the same ends of their ranges. */
const areAlike = (stages: readonly Stage[], a: TunerSettings, b: TunerSettings): boolean =>
  stages.every((stage, k) => {
    const [one, other] = [a[k], b[k]]
    if (stage.kind !== 'tuner' || stage.method !== 'network' || !one || !other) return true
    if (one.matched !== other.matched) return false
    return one.elements.every(({ place, part, value }, i) => {
      const { place: otherPlace, value: otherValue } = other.elements[i]!
      const range = part === 'coil' ? stage.coilH : stage.capacitorF
      return (
        place === otherPlace &&
        endOf(value, range) === endOf(otherValue, range) &&
        Math.max(value, otherValue) <= JUMP * Math.min(value, otherValue)
      )
    })
  })

const endOf = (value: number, [least, most]: readonly [number, number]): -1 | 0 | 1 =>
  value <= least * 1.0001 ? -1 : value >= most * 0.9999 ? 1 : 0

/** Where all tuners of a chain stand, by the phase of its load. */
function tunersByPhase(
  chain: Chain,
  frequencyHz: number,
  given: (phaseRad: number) => TunerSettings,
): (phaseRad: number) => TunerSettings {
  const { stages, load } = chain
  if (!stages.some(({ kind, bypassed }) => kind === 'tuner' && !bypassed)) return given
  const reference = referenceOf(chain)
  const matrices = matricesOf(stages, frequencyHz, reference)
  const phasors = newPhasors(stages.length)
  const rho = new Float64Array(2)
  return (phaseRad) => {
    const settings = given(phaseRad)
    writeReflection(load, frequencyHz, reference, phaseRad, rho)
    const reflection = complex(rho[0]!, rho[1])
    walk(stages, frequencyHz, reference, reflection, phasors, settings, matrices)
    return settings
  }
}
