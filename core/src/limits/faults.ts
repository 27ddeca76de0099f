/** What breaks when something fails: check the fault, not only the fair day. */
import { settingsNow } from '../chain/tunerSettings.ts'
import type { OperatingPoint } from '../chain/chain.ts'
import { solveChain } from '../chain/solve.ts'
import type { Solution } from '../chain/solution.ts'
import { roundOf, turnChain } from '../chain/turnChain.ts'
import { type Load, phaseUnknown } from '../load/load.ts'
import { swrOf } from '../load/reflection.ts'
import type { AmplifierStage } from '../source/amplifier.ts'
import { foldbackAt, type FoldbackPoint, type Transmitter } from '../source/transmitter.ts'
import type { RatedStage } from './ratings.ts'
import { checkLimits, type Checked, type RatedChain } from './mostPower.ts'
import type { Stress } from '../stages/stress.ts'
import { type Surroundings, tightest } from './stress.ts'

export type FaultKind = 'open' | 'short' | 'joint' | 'worstSwr'

export interface Fault {
  kind: FaultKind
  /** The plane that is open or shorted, or the last one. */
  plane: number
  /** The tightest part with the sources’ foldback, and without it. */
  held: Stress | null
  unheld: Stress | null
  /** How soon that part gives out: 0 at once, seconds by its time constant, null by heat of unknown speed. */
  soonS: number | null
}

const OPEN: Load = { kind: 'fixed', rOhm: 1e9, xOhm: 0 }
const SHORT: Load = { kind: 'fixed', rOhm: 0, xOhm: 0 }

/**
 * The faults of a chain at one operating point. Nothing retunes in a fault: tuners stay where they were set
 * for the fair day, and every source goes on with the forward power that it had then, as a linear source
 * would within about 1.5 dB. Its foldback and an amplifier's own switching off are what may save the day.
 *
 * @param worstSwr the worst SWR that the station allows at its antenna; without it that case is left out
 */
export function faultsOf(
  chain: RatedChain,
  at: OperatingPoint,
  around: Surroundings,
  worstSwr?: number,
): Fault[] {
  const settings = settingsNow(chain, at)
  const fair = fairDay(chain, { ...at, settings })
  // A fault comes when the station has been on the air for a while.
  const warm = new Map<number, number>()
  for (const { kind, part, stress } of checkLimits(chain, { ...at, settings }, around).stresses)
    if (kind === 'heat') warm.set(part, Math.max(stress, warm.get(part) ?? 0))
  const last = chain.stages.length
  const look = (kind: FaultKind, plane: number, load: Load): Fault => {
    const check = (protectedBy: 'foldback' | 'nothing'): Checked =>
      checkLimits(
        {
          transmitter: heldTransmitter(chain, at, fair, protectedBy),
          stages: heldStages(chain, fair, protectedBy).slice(0, plane),
          load,
          referenceOhm: chain.referenceOhm,
        },
        { ...at, settings: settings.slice(0, plane) },
        around,
      )
    const [held, unheld] = (['foldback', 'nothing'] as const).map((by) =>
      tightest(check(by).stresses.filter(breaks)),
    ) as [Stress | null, Stress | null]
    return { kind, plane, held, unheld, soonS: soon(unheld, chain.stages, warm) }
  }
  return [
    look('open', last, OPEN),
    look('short', last, SHORT),
    ...chain.stages.slice(1).map((_, i) => look('joint', i + 1, OPEN)),
    ...(worstSwr === undefined ? [] : [look('worstSwr', last, { kind: 'swr', swr: worstSwr })]),
  ]
}

/** What a source does on a fair day. */
interface FairSource {
  /** Forward power that it sends out, W PEP: the most over all phases that the load may have. */
  forwardW: number
  /** What it would send into its reference, before its foldback. */
  settingW: number
  /** What its foldback leaves of that. */
  foldback: number
}

/** The transmitter's fair day, and every amplifier's by its stage's index. */
interface FairDay {
  transmitter: FairSource
  amplifiers: (FairSource | undefined)[]
}

function fairDay(chain: RatedChain, at: OperatingPoint): FairDay {
  const solve = (phase: number) => solveChain(chain, at, phase)
  const all = phaseUnknown(chain.load, at.frequencyHz)
    ? turnChain(roundOf(chain, at), {
        solve,
        figuresOf: ({ planes }) => planes.map(({ forwardW }) => forwardW),
      })
    : [solve(0)]
  const most = (pick: (solution: Solution) => FairSource): FairSource =>
    all.map(pick).reduce((a, b) => (b.forwardW > a.forwardW ? b : a))
  return {
    transmitter: most(({ planes, foldback }) => ({
      forwardW: planes[0]!.forwardW,
      settingW: at.powerW,
      foldback,
    })),
    amplifiers: chain.stages.map((stage, k) =>
      stage.kind === 'amplifier' && !stage.bypassed
        ? most(({ planes, stages }) => ({
            forwardW: planes[k + 1]!.forwardW,
            settingW: stages[k]!.amplifier!.outputW,
            foldback: stages[k]!.amplifier!.foldback,
          }))
        : undefined,
    ),
  }
}

type Foldback = readonly FoldbackPoint[]

/**
 * The foldback curve of a source that is not retuned: its own, scaled so that on the fair day it gives the
 * forward power of that day; flat where nothing protects.
 */
function heldCurve(
  curve: Foldback,
  { forwardW, settingW, foldback }: FairSource,
  protectedBy: 'foldback' | 'nothing',
): Foldback {
  const share = settingW > 0 ? forwardW / settingW : 0
  if (protectedBy === 'nothing' || curve.length === 0 || foldback === 0) return [[1, share]]
  return curve.map(([swr, fraction]) => [swr, (fraction * share) / foldback])
}

const heldTransmitter = (
  { transmitter }: RatedChain,
  at: OperatingPoint,
  { transmitter: fair }: FairDay,
  protectedBy: 'foldback' | 'nothing',
): Transmitter => ({
  behaviour: 'levelled',
  foldback: at.powerW > 0 ? heldCurve(transmitter.foldback, fair, protectedBy) : [],
})

function heldStages(
  { stages }: RatedChain,
  { amplifiers }: FairDay,
  protectedBy: 'foldback' | 'nothing',
): RatedStage[] {
  // A fault behind an amplifier is not seen before it.
  const leg = stages.findLastIndex((_, k) => amplifiers[k]) + 1
  return stages.map((stage, k) => {
    const fair = amplifiers[k]
    if (stage.kind === 'amplifier' && fair) {
      const curve = heldCurve(stage.foldback, fair, protectedBy)
      return {
        ...stage,
        behaviour: 'levelled',
        foldback: protectedBy === 'foldback' ? withTrip(curve, stage, fair) : curve,
      }
    }
    return k >= leg ? helpless(stage) : stage
  })
}

/** A foldback curve that falls to nothing where an amplifier switches itself off. */
function withTrip(
  curve: Foldback,
  { tripSwr = Infinity, tripReflectedW = Infinity }: AmplifierStage,
  { forwardW }: FairSource,
): Foldback {
  const rho = Math.sqrt(tripReflectedW / forwardW)
  const offAbove = Math.min(tripSwr, swrOf(rho))
  if (!Number.isFinite(offAbove)) return curve
  return [
    ...curve.filter(([swr]) => swr < offAbove),
    [offAbove, foldbackAt(curve, offAbove)],
    [offAbove * (1 + 1e-9), 0],
  ]
}

/** A tuner known only by its loss tells nothing of a fault: then it is taken as not there. */
const helpless = (stage: RatedStage): RatedStage =>
  stage.kind === 'tuner' && stage.method === 'given' ? { ...stage, bypassed: true } : stage

/** A fault breaks parts; licences and ratings of the radio are another matter. */
const breaks = ({ kind }: Stress): boolean =>
  kind === 'voltage' || kind === 'heat' || kind === 'firing'

/** @param before heat of every part on the fair day, which it has settled at */
function soon(
  stress: Stress | null,
  stages: readonly RatedStage[],
  before: ReadonlyMap<number, number>,
): number | null {
  if (stress === null || stress.kind !== 'heat') return 0
  const timeConstantS = stages[stress.part]?.limits?.timeConstantS
  if (timeConstantS === undefined) return null
  return heatingTimeS(stress.stress, stress.limit!, timeConstantS, before.get(stress.part))
}

/**
 * Time until a steady stress brings a part to its limit, s: τ·ln((S − S₀)/(S − L)).
 *
 * @param before the stress that it has settled at; 0 is cold
 */
export function heatingTimeS(
  stress: number,
  limit: number,
  timeConstantS: number,
  before = 0,
): number {
  if (stress <= limit) return Infinity
  return before >= limit ? 0 : timeConstantS * Math.log((stress - before) / (stress - limit))
}

/** A dummy load that bears so much for ever, and so much for a while. */
export interface DummyLoad {
  continuousW: number
  burst: { watts: number; minutes: number }
}

export interface KeyingTime {
  /** Minutes from cold until it must rest; infinite where it bears the power for ever. */
  onMinutes: number
  /** Minutes until it has cooled to a tenth of its limit again. */
  coolMinutes: number
  timeConstantMinutes: number
}

/**
 * How long a dummy load bears a mean power, and how long it then cools. The time constant follows from its
 * two ratings: burst·(1 − e^(−t/τ)) = continuous.
 *
 * @example keyingTime({ continuousW: 100, burst: { watts: 1000, minutes: 1 } }, 500)
 *   // { onMinutes: 2.118, coolMinutes: 21.85, timeConstantMinutes: 9.491 }
 */
export function keyingTime({ continuousW, burst }: DummyLoad, meanW: number): KeyingTime {
  const timeConstantMinutes =
    burst.watts > continuousW ? -burst.minutes / Math.log(1 - continuousW / burst.watts) : 0
  const reached = Math.min(1, meanW / continuousW)
  return {
    onMinutes: heatingTimeS(meanW, continuousW, timeConstantMinutes),
    coolMinutes: timeConstantMinutes * Math.log(Math.max(1, reached * 10)),
    timeConstantMinutes,
  }
}
