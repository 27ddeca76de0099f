import type { ChainDocument } from '@saltline/contract'
import type { Ledger } from '@saltline/core'
import type { LedgerRanges } from '../../model/ledgerRanges.ts'
import type { Radiated } from '../../model/radiated.ts'
import { beyondTuner } from '../../model/answers.ts'

/** The ledger as text with tabs, for a spreadsheet; where a figure has a range, its ends stand in columns of their own. */
export function ledgerAsText(
  document: ChainDocument,
  ledger: Ledger,
  ranges?: LedgerRanges | null,
  radiated?: Radiated | null,
): string {
  const heads = ['stage', 'in W', 'out W', 'loss dB', 'lost W', 'share', 'SWR after']
  const ends = ['loss dB, least', 'loss dB, most', 'lost W, least', 'lost W, most']
  const lines = [ranges ? [...heads, ...ends] : heads]
  for (const [i, row] of ledger.rows.entries()) {
    const { lossDb, lossW } = ranges?.rows[i] ?? {}
    lines.push([
      row.stage < 0
        ? `Not delivered by ${document.transmitter.name}`
        : document.stages[row.stage]!.name,
      row.inW.toFixed(3),
      row.outW.toFixed(3),
      row.lossDb.toFixed(3),
      row.lossW.toFixed(3),
      row.share.toFixed(4),
      beyondTuner(document.stages, row.stage + 1) ? '' : row.swrAfter.toFixed(2),
      ...(ranges
        ? [lossDb?.low, lossDb?.high, lossW?.low, lossW?.high].map((end) => end?.toFixed(3) ?? '')
        : []),
    ])
  }
  // What the antenna makes of it: no loss, and no share.
  if (radiated) lines.push([radiated.kind, '', radiated.watts.toFixed(3)])
  return lines.map((line) => line.join('\t')).join('\n')
}
