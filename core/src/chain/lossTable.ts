import type { Cable } from '../line/cable.ts'
import { phases } from './allRound.ts'
import { solveChain } from './solve.ts'

/** What one length of cable costs at one frequency and SWR. */
export interface LossCell {
  frequencyHz: number
  /** SWR at the antenna. */
  swr: number
  /** Loss on a flat line. */
  matchedDb: number
  /** Total loss, averaged over the phases of the antenna's reflection. */
  totalDb: number
  /** Total less matched. */
  additionalDb: number
  /** Of `powerW` net into the cable, what comes out. */
  outW: number
}

const PHASES = 24

/**
 * Loss of one cable for every frequency and SWR, as a table of rows by frequency. The additional
 * loss depends on the phase of the antenna's reflection where the line is short; the table gives the
 * mean over it.
 *
 * @param powerW net power into the cable
 * @example lossTable(cable, 30, [10e6], [2], 100)[0][0].totalDb // 2.224
 */
export function lossTable(
  cable: Cable,
  lengthM: number,
  frequenciesHz: readonly number[],
  swrs: readonly number[],
  powerW: number,
): LossCell[][] {
  const chain = (swr: number) => ({
    // Peaked, so that the power asked for is what goes into the cable.
    transmitter: { behaviour: 'peaked' as const, foldback: [] },
    stages: [{ kind: 'line' as const, lengthM, cable }],
    load: { kind: 'swr' as const, swr },
  })
  return frequenciesHz.map((frequencyHz) =>
    swrs.map((swr): LossCell => {
      const solved = (swr === 1 ? [0] : phases(PHASES)).map((phase) =>
        solveChain(chain(swr), { frequencyHz, powerW }, phase),
      )
      const outW = solved.reduce((sum, s) => sum + s.antennaW, 0) / solved.length
      const totalDb = outW > 0 ? 10 * Math.log10(powerW / outW) : Infinity
      const matchedDb = solved[0]!.stages[0]!.line!.matchedLossDb
      return { frequencyHz, swr, matchedDb, totalDb, additionalDb: totalDb - matchedDb, outW }
    }),
  )
}

/**
 * The length of cable whose matched loss is `db`, m; infinite for a cable without loss. For watts,
 * give 10·log₁₀ of their ratio.
 *
 * @example lengthForLoss(6.52, 1) // 15.34
 */
export const lengthForLoss = (dbPer100m: number, db: number): number => (100 * db) / dbPer100m
