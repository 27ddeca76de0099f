/** What a shunt resistor or a pad in front of an amplifier's input does, on every frequency. */
import type { Chain, OperatingPoint } from '../chain/chain.ts'
import { solveChain } from '../chain/solve.ts'
import { inputImpedance, type AmplifierStage } from '../source/amplifier.ts'
import type { Stage } from '../stages/stage.ts'
import { nearestStandard } from './resistors.ts'

export type InputAid =
  | { kind: 'none' }
  | { kind: 'shunt'; ohm: number }
  | { kind: 'pad'; db: number }

/**
 * The stage that an aid is, in front of the amplifier.
 *
 * @example stageOfAid({ kind: 'none' }) // null
 */
export const stageOfAid = (aid: InputAid): Stage | null =>
  aid.kind === 'shunt'
    ? { kind: 'shunt', rOhm: aid.ohm, xOhm: 0 }
    : aid.kind === 'pad'
      ? { kind: 'pad', lossDb: aid.db }
      : null

export interface AidedInput {
  frequencyHz: number
  /** What the exciter sees. */
  swr: number
  driveW: number
  /** Drive for the ceiling in this mode. */
  mostDriveW: number
  /** Heat in the aid, W PEP. */
  heatW: number
  outputW: number
}

/**
 * The leg before an amplifier with an aid at its input, at one operating point. Stages between the
 * transmitter and the amplifier stay; one aid that is already there is not taken out.
 */
export function aidedInput(
  chain: Chain,
  amplifierIndex: number,
  aid: InputAid,
  at: OperatingPoint,
): AidedInput {
  const extra = stageOfAid(aid)
  const stages = extra ? chain.stages.toSpliced(amplifierIndex, 0, extra) : chain.stages
  const { planes, stages: solved } = solveChain({ ...chain, stages }, at)
  const index = amplifierIndex + (extra ? 1 : 0)
  const state = solved[index]!.amplifier!
  return {
    frequencyHz: at.frequencyHz,
    swr: planes[0]!.swr,
    driveW: state.driveW,
    mostDriveW: state.mostDriveW,
    heatW: extra ? solved[amplifierIndex]!.lossW : 0,
    outputW: state.outputW,
  }
}

/** The least SWR a shunt may be asked for: less is not worth the drive it takes. */
const SHUNT_GRID = 60

/**
 * The standard shunt resistance that gives the least of the worst SWRs over some frequencies; null where
 * none is better than no shunt at all, as with an input under 50 Ω.
 *
 * @example bestShunt(amplifier, [7e6, 10e6], 50) // 150
 */
export function bestShunt(
  amplifier: Pick<AmplifierStage, 'inputOhm' | 'inputBands'>,
  frequenciesHz: readonly number[],
  referenceOhm: number,
): number | null {
  const worst = (siemens: number): number =>
    Math.max(
      ...frequenciesHz.map((hz) => {
        const { re, im } = inputImpedance(amplifier, hz)
        const d = re * re + im * im
        const g = (re / d + siemens) * referenceOhm
        const b = (-im / d) * referenceOhm
        const rho = Math.hypot(1 - g, b) / Math.hypot(1 + g, b)
        return (1 + rho) / (1 - rho)
      }),
    )
  let best: { ohm: number; swr: number } | null = null
  for (let i = 0; i <= SHUNT_GRID; i++) {
    const ohm = nearestStandard(referenceOhm * 0.5 * 100 ** (i / SHUNT_GRID))
    const swr = worst(1 / ohm)
    if (!best || swr < best.swr) best = { ohm, swr }
  }
  return best && best.swr < worst(0) - 0.01 ? best.ohm : null
}
