/** What breaks when something fails: check the fault, not only the fair day. */
import { type OperatingPoint, settingsNow } from '../chain/chain.ts'
import type { Load } from '../load/load.ts'
import type { RatedStage } from './ratings.ts'
import { checkLimits, type Checked, type RatedChain } from './mostPower.ts'
import { type Stress, type Surroundings, tightest } from './stress.ts'

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

const withoutFoldback = (chain: RatedChain): RatedChain => ({
  ...chain,
  transmitter: { ...chain.transmitter, foldback: [] },
  stages: chain.stages.map((stage) =>
    stage.kind === 'amplifier' ? { ...stage, foldback: [] } : stage,
  ),
})

/**
 * The faults of a chain at one operating point. Tuners stay where they were set for the fair day: a fault
 * does not wait for them.
 *
 * @param worstSwr the worst SWR that the station allows at its antenna
 */
export function faultsOf(
  chain: RatedChain,
  at: OperatingPoint,
  around: Surroundings,
  worstSwr: number,
): Fault[] {
  const settings = settingsNow(chain, at)
  const cut = (plane: number, load: Load): RatedChain => ({
    ...chain,
    stages: chain.stages.slice(0, plane),
    load,
  })
  const last = chain.stages.length
  const look = (kind: FaultKind, plane: number, whole: RatedChain): Fault => {
    const faulty = { ...whole, stages: whole.stages.map(helpless) }
    const check = (each: RatedChain): Checked =>
      checkLimits(each, { ...at, settings: settings.slice(0, plane) }, around)
    const [held, unheld] = [faulty, withoutFoldback(faulty)].map((each) =>
      tightest(check(each).stresses.filter(breaks)),
    ) as [Stress | null, Stress | null]
    return { kind, plane, held, unheld, soonS: soon(unheld, chain.stages) }
  }
  return [
    look('open', last, cut(last, OPEN)),
    look('short', last, cut(last, SHORT)),
    ...chain.stages.slice(1).map((_, i) => look('joint', i + 1, cut(i + 1, OPEN))),
    look('worstSwr', last, { ...chain, load: { kind: 'swr', swr: worstSwr } }),
  ]
}

/** A tuner known only by its loss tells nothing of a fault: then it is taken as not there. */
const helpless = (stage: RatedStage): RatedStage =>
  stage.kind === 'tuner' && stage.method === 'given' ? { ...stage, bypassed: true } : stage

/** A fault breaks parts; licences and ratings of the radio are another matter. */
const breaks = ({ kind }: Stress): boolean =>
  kind === 'voltage' || kind === 'heat' || kind === 'firing'

function soon(stress: Stress | null, stages: readonly RatedStage[]): number | null {
  if (stress === null || stress.kind !== 'heat') return 0
  const timeConstantS = stages[stress.part]?.limits?.timeConstantS
  if (timeConstantS === undefined) return null
  if (stress.stress <= stress.limit!) return Infinity
  return heatingTimeS(stress.stress, stress.limit!, timeConstantS)
}

/** Time from cold until a steady stress brings a part to its limit, s. */
export const heatingTimeS = (stress: number, limit: number, timeConstantS: number): number =>
  stress <= limit ? Infinity : -timeConstantS * Math.log(1 - limit / stress)

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
