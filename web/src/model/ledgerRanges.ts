/** The ranges of a ledger's figures, where they have any. */
import { type Ledger, lossDb, type Range, type Spread } from '@saltline/core'

type Figure = 'inW' | 'outW' | 'lossDb' | 'lossW' | 'swrAfter'

export interface LedgerRanges {
  /** As the ledger's rows: what the transmitter keeps back first. */
  rows: Partial<Record<Figure, Range>>[]
  total: { antennaW: Range; lossDb: Range; takenW: Range | undefined }
}

/** What is left of a fixed figure, when a range of it is taken away. */
const less = (from: number, { low, high }: Range): Range => ({ low: from - high, high: from - low })

const dbBelow = (from: number, { low, high }: Range): Range => ({
  low: lossDb(from, high),
  high: lossDb(from, low),
})

export function ledgerRanges(
  { settingW, addedW }: Pick<Ledger, 'settingW' | 'addedW'>,
  { transmitterNetW, antennaW, planes, stages }: Spread,
): LedgerRanges {
  return {
    rows: [
      {
        outW: transmitterNetW,
        lossDb: dbBelow(settingW, transmitterNetW),
        lossW: less(settingW, transmitterNetW),
        swrAfter: planes[0]!.swr,
      },
      ...stages.map((stage, k) => ({
        ...stage,
        inW: planes[k]!.netW,
        outW: planes[k + 1]!.netW,
        swrAfter: planes[k + 1]!.swr,
      })),
    ],
    total: {
      antennaW,
      lossDb: dbBelow(settingW, antennaW),
      // What an amplifier adds has a range of its own that goes with it.
      takenW: addedW === 0 ? less(settingW, antennaW) : undefined,
    },
  }
}
