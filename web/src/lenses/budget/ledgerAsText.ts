import type { ChainDocument } from '@saltline/contract'
import type { Ledger } from '@saltline/core'
import { beyondTuner } from '../../model/answers.ts'

/** The ledger as text with tabs, for a spreadsheet. */
export function ledgerAsText(document: ChainDocument, ledger: Ledger): string {
  const lines = [['stage', 'in W', 'out W', 'loss dB', 'lost W', 'share', 'SWR after']]
  for (const row of ledger.rows) {
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
    ])
  }
  return lines.map((line) => line.join('\t')).join('\n')
}
