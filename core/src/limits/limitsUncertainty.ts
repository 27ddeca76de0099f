/** How far the stress of each part, and the most power, may lie from what is computed. */
import { checkChain } from '../chain/checkChain.ts'
import type { OperatingPoint } from '../chain/chain.ts'
import { drawnChain, type DrawOptions, stationDraws } from '../chain/drawStation.ts'
import { solveChain } from '../chain/solve.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { settingsNow } from '../chain/tunerSettings.ts'
import type { ModeId } from '../source/modes.ts'
import { type Estimate, estimateOf } from '../statistics/quantile.ts'
import { seeded } from '../statistics/random.ts'
import { mostPowerOf, type RatedChain } from './mostPower.ts'
import type { Stress } from '../stages/stress.ts'
import { stressesOf, type Surroundings } from './stress.ts'

/** How a chain may be used on a channel: what it is asked about at one and the same setting. */
export interface Use {
  mode?: ModeId | undefined
  around: Surroundings
}

export interface StressRange extends Pick<Stress, 'part' | 'kind'> {
  stress: Estimate
  /** Share of the draws in which it is past its limit; 0 where none is known. */
  over: number
}

export interface LimitsUncertainty {
  /** In the order of the chain; see `stressesOf`. */
  stresses: StressRange[]
  /** Setting, W PEP; null where no limit is known. */
  mostW: Estimate | null
  /** Share of the draws in which something that counts is past its limit at the setting. */
  over: number
}

/**
 * Draws a chain on a channel within what is known of it and holds every draw against its limits: one answer for each use.
 * Limits are those of the parts as they are written down. Where the antenna’s phase is not known, every draw has its own.
 *
 * @param counts which stresses the most power is looked for with
 * @throws InputError as `solveChain`
 */
export function limitsUncertainty(
  chain: RatedChain,
  at: OperatingPoint,
  uses: readonly Use[],
  tolerances: Tolerances,
  {
    draws = 500,
    seed = 1,
    counts = () => true,
    progress,
  }: DrawOptions & { counts?: (stress: Stress) => boolean } = {},
): LimitsUncertainty[] {
  checkChain(chain, at)
  const random = seeded(seed)
  const drawn = stationDraws(chain, [at], tolerances)
  // Where an amplifier saturates, or nothing is sent, one solution says nothing of another power.
  const solveAnew =
    at.powerW === 0 || chain.stages.some(({ kind, bypassed }) => kind === 'amplifier' && !bypassed)
  const all = uses.map((): Gathered => ({ kinds: [], stress: [], over: [], mostW: [], anyOver: 0 }))
  for (let i = 0; i < draws; i++) {
    const real = drawn(random)
    const own = drawnChain(chain, real, 0)
    const sourceFactor = at.powerW > 0 ? real.powerW[0]! / at.powerW : 1
    const fixed = { ...at, settings: settingsNow(own, at) }
    uses.forEach(({ mode, around }, u) => {
      const stressesAt = (settingW: number): Stress[] => {
        const powerW = settingW * sourceFactor
        return stressesOf(chain.stages, solveChain(own, { ...fixed, powerW, mode }, 0), around)
      }
      const stresses = stressesAt(at.powerW)
      gather(all[u]!, stresses)
      const counting = stresses.filter(counts)
      all[u]!.anyOver += Number(counting.some(isOver))
      const most = mostPowerOf(
        (settingW) =>
          solveAnew ? stressesAt(settingW).filter(counts) : scaled(counting, settingW / at.powerW),
        at.powerW,
      )
      if (most.by) all[u]!.mostW.push(most.powerW)
    })
    if (progress && i % 20 === 19) progress((i + 1) / draws)
  }
  return all.map(({ kinds, stress, over, mostW, anyOver }) => ({
    stresses: kinds.map((which, s) => ({
      ...which,
      stress: estimateOf(stress[s]!),
      over: over[s]! / draws,
    })),
    mostW: mostW.length > 0 ? estimateOf(mostW) : null,
    over: anyOver / draws,
  }))
}

/** By stress, in the order of the chain. */
interface Gathered {
  kinds: Pick<Stress, 'part' | 'kind'>[]
  stress: number[][]
  over: number[]
  mostW: number[]
  anyOver: number
}

const isOver = ({ limit, stress }: Stress): boolean => limit !== null && stress > limit

function gather(into: Gathered, stresses: readonly Stress[]): void {
  stresses.forEach((own, s) => {
    into.kinds[s] ??= { part: own.part, kind: own.kind }
    ;(into.stress[s] ??= []).push(own.stress)
    into.over[s] = (into.over[s] ?? 0) + Number(isOver(own))
  })
}

/**
 * What is left to the limits of a chain without an amplifier at another power, for `mostPowerOf`, which reads no more of them:
 * every limit of such a chain stands for a power. The stresses stay those of the power that was solved.
 */
const scaled = (stresses: readonly Stress[], factor: number): Stress[] =>
  stresses.map((own) => ({
    ...own,
    headroomDb: own.headroomDb === null ? null : own.headroomDb - 10 * Math.log10(factor),
  }))
