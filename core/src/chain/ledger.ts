import { lossDb } from '../units/decibel.ts'
import type { Solution } from './solution.ts'

/** One line of the account from the set power to the antenna. */
export interface LedgerRow {
  /** Index of the stage, or −1 for what the transmitter itself keeps back. */
  stage: number
  inW: number
  outW: number
  lossDb: number
  lossW: number
  /** Of everything lost between the setting and the antenna, 0 … 1; 0 for an amplifier, which adds. */
  share: number
  /** SWR at the plane behind it. */
  swrAfter: number
}

export interface Ledger {
  rows: LedgerRow[]
  settingW: number
  antennaW: number
  /** Setting less antenna: negative where an amplifier adds more than is lost. */
  lostW: number
  /** All that is lost anywhere, and all that amplifiers add, W. */
  takenW: number
  addedW: number
  lossDb: number
  /** What the transmitter keeps back, in its two parts. */
  heldBack: { foldbackW: number; reflectedW: number }
}

/**
 * The account of a solved chain. Its losses add up to setting − antenna.
 *
 * @example ledgerOf(solveChain(chain, at)).rows.map(({ lossW }) => lossW) // [4.985, 37.48]
 */
export function ledgerOf(solution: Solution): Ledger {
  const { settingW, antennaW, transmitterNetW, planes } = solution
  const lostW = settingW - antennaW
  const addedW = solution.stages.reduce((sum, s) => sum + (s.amplifier ? -s.lossW : 0), 0)
  const takenW = lostW + addedW
  const share = (watts: number) => (takenW > 0 ? Math.max(0, watts) / takenW : 0)
  const row = (
    stage: number,
    inW: number,
    outW: number,
    swrAfter: number,
    db = lossDb(inW, outW),
  ): LedgerRow => ({
    stage,
    inW,
    outW,
    lossDb: db,
    lossW: inW - outW,
    share: share(inW - outW),
    swrAfter,
  })
  const held = settingW - transmitterNetW
  const foldbackW = settingW * (1 - solution.foldback)
  return {
    rows: [
      row(-1, settingW, transmitterNetW, planes[0]!.swr),
      ...solution.stages.map((stage, k) =>
        row(k, planes[k]!.netW, planes[k + 1]!.netW, planes[k + 1]!.swr, stage.lossDb),
      ),
    ],
    settingW,
    antennaW,
    lostW,
    takenW,
    addedW,
    lossDb: lossDb(settingW, transmitterNetW) + solution.chainLossDb,
    heldBack: { foldbackW, reflectedW: held - foldbackW },
  }
}
