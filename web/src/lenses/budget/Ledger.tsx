import { Term } from '../../shell/Term.tsx'
import { act, copyText } from '../../platform/act.ts'
import type { ChainDocument } from '@saltline/contract'
import {
  dbNumber,
  decimals,
  formatLength,
  formatPercent,
  formatPower,
  formatSwr,
  powerFigure,
  type Ledger as LedgerData,
  type LedgerRow,
  type Range,
  type Spread,
} from '@saltline/core'
import { Copy } from 'lucide-react'
import { useUnits } from '../../platform/preferences.ts'
import { ledgerRanges } from '../../model/ledgerRanges.ts'
import type { Radiated } from '../../model/radiated.ts'
import { beyondTuner } from '../../model/answers.ts'
import { type Selection, writeSelection } from '../../model/selection.ts'
import { useWidth } from '../../ui/useWidth.ts'
import { rangeText } from '../../model/wattsText.ts'
import { ledgerAsText } from './ledgerAsText.ts'

interface Props {
  document: ChainDocument
  ledger: LedgerData
  spread: Spread | null
  /** Of the channel, where the antenna's gain is known. */
  radiated: Radiated | null
  selection: Selection | null
  onSelect: (selection: Selection) => void
  onWorking: (row: number | 'total') => void
}

/** One decimal where watts are many, two where they are few, so that a column adds up by eye. */
const wattsNumber = (watts: number, settingW: number): string =>
  decimals(watts, settingW >= 20 ? 1 : settingW >= 2 ? 2 : 3)

const negated = (range: Range | undefined): Range | undefined =>
  range && { low: -range.high, high: -range.low }

const selectionOf = (document: ChainDocument, row: LedgerRow): Selection =>
  row.stage < 0 ? { kind: 'transmitter' } : { kind: 'stage', id: document.stages[row.stage]!.id }

/** Made once: they never change. */
const copyIcon = <Copy size={14} aria-hidden />
const swrTerm = <Term>SWR</Term>

/** The account from the setting to the antenna: who took what. */
export function Ledger({
  document,
  ledger,
  spread,
  radiated,
  selection,
  onSelect,
  onWorking,
}: Props) {
  const units = useUnits()
  const most = Math.max(...ledger.rows.map((row) => row.lossW), 1e-12)
  const [ref, width] = useWidth<HTMLElement>()
  const ranges = spread && ledgerRanges(ledger, spread)
  // Two figures take the room of two, and a share of what is not one figure is none.
  const shows = ranges
    ? { inOut: width >= 640, drawn: false, share: false }
    : { inOut: width >= 448, drawn: width >= 512, share: width >= 384 }
  const watts = (w: number) => wattsNumber(w, ledger.settingW)
  // What is lost stays in watts: a loss has no level.
  const level = (w: number) => (units.power === 'dBm' ? powerFigure(w, 'dBm').number : watts(w))
  const swrAfter = (row: LedgerRow, range?: Range) =>
    beyondTuner(document.stages, row.stage + 1) ? '–' : rangeText(row.swrAfter, range, formatSwr)
  const copy = () =>
    act(async () => {
      await copyText(ledgerAsText(document, ledger, ranges, radiated))
      return { said: 'The ledger is copied, with tabs between the columns.' }
    })
  return (
    <section aria-label="Ledger" ref={ref}>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse">
          <thead>
            <tr className="border-b border-rule text-left text-sm whitespace-nowrap text-muted [&>th]:pb-2 [&>th]:pl-2 [&>th]:font-normal [&>th:first-child]:pl-0">
              <th scope="col">stage</th>
              {shows.inOut && (
                <>
                  <th scope="col" className="text-right">
                    in, {units.power}
                  </th>
                  <th scope="col" className="text-right">
                    out, {units.power}
                  </th>
                </>
              )}
              <th scope="col" className="text-right">
                dB
              </th>
              <th scope="col" className="text-right">
                lost, W
              </th>
              {shows.drawn && (
                <th scope="col" className="pl-3">
                  <span className="sr-only">share drawn</span>
                </th>
              )}
              {shows.share && (
                <th scope="col" className="text-right">
                  share
                </th>
              )}
              <th scope="col" className="text-right">
                {swrTerm} after
              </th>
              <th scope="col">
                <button
                  type="button"
                  className="quiet -my-1 ml-auto flex !px-1.5"
                  onClick={() => void copy()}
                  aria-label="Copy the ledger"
                >
                  {copyIcon}
                </button>
              </th>
            </tr>
          </thead>
          <tbody>
            {ledger.rows.map((row, i) => {
              const range = ranges?.rows[i]
              const item = selectionOf(document, row)
              const stage = document.stages[row.stage]
              const held = row.stage < 0
              const picked =
                selection !== null && writeSelection(selection) === writeSelection(item)
              return (
                <tr
                  key={row.stage}
                  className={`border-b border-rule [&>td]:py-[5px] [&>td]:pl-2 [&>td]:text-right ${picked ? 'bg-paper' : ''}`}
                >
                  <th scope="row" className="py-[5px] pr-1 text-left font-normal">
                    <button
                      type="button"
                      className="min-h-6 text-left hover:text-tide"
                      onClick={() => onSelect(item)}
                    >
                      {held ? `Not delivered by ${document.transmitter.name}` : stage!.name}{' '}
                      {stage?.kind === 'line' && (
                        <span className="whitespace-nowrap text-muted">
                          {formatLength(stage.lengthM, units.length)}
                        </span>
                      )}
                      {row.lossW < -1e-9 && <span className="text-muted">adds</span>}
                      {stage?.bypassed && <span className="text-muted">bypassed</span>}
                    </button>
                  </th>
                  {shows.inOut && (
                    <>
                      <td>{rangeText(row.inW, range?.inW, level)}</td>
                      <td>{rangeText(row.outW, range?.outW, level)}</td>
                    </>
                  )}
                  {row.lossW < 0 ? (
                    <>
                      <td>+{rangeText(-row.lossDb, negated(range?.lossDb), dbNumber)}</td>
                      <td>+{rangeText(-row.lossW, negated(range?.lossW), watts)}</td>
                    </>
                  ) : (
                    <>
                      <td>{rangeText(row.lossDb, range?.lossDb, dbNumber)}</td>
                      <td>{rangeText(row.lossW, range?.lossW, watts)}</td>
                    </>
                  )}
                  {shows.drawn && (
                    <td className="w-16">
                      <span
                        aria-hidden
                        className={`block h-2.5 ${held ? 'hatched text-returned' : 'bg-heat'}`}
                        style={{
                          width: `${Math.max(row.lossW > 0 ? 1 : 0, (row.lossW / most) * 100)}%`,
                        }}
                      />
                    </td>
                  )}
                  {shows.share && (
                    <td className="text-muted">
                      {row.lossW < -1e-9 ? '' : formatPercent(row.share)}
                    </td>
                  )}
                  <td className="text-muted">{swrAfter(row, range?.swrAfter)}</td>
                  <td>
                    <button
                      type="button"
                      className="link min-h-6 text-sm"
                      aria-label={`working of ${held ? 'what is not delivered' : stage!.name}`}
                      onClick={() => onWorking(row.stage)}
                    >
                      working
                    </button>
                  </td>
                </tr>
              )
            })}
          </tbody>
          <tfoot>
            <tr className="border-t-2 border-ink font-bold [&>td]:pt-2 [&>td]:pl-2 [&>td]:text-right">
              <th scope="row" className="pt-2 text-left">
                {document.load.name}
              </th>
              {shows.inOut && (
                <>
                  <td>{level(ledger.settingW)}</td>
                  <td>{rangeText(ledger.antennaW, ranges?.total.antennaW, level)}</td>
                </>
              )}
              <td>
                {ledger.addedW > 0 ? '' : rangeText(ledger.lossDb, ranges?.total.lossDb, dbNumber)}
              </td>
              <td>{rangeText(ledger.takenW, ranges?.total.takenW, watts)}</td>
              {shows.drawn && <td />}
              {shows.share && <td>{ledger.takenW > 0 ? formatPercent(1) : ''}</td>}
              <td>{swrAfter(ledger.rows.at(-1)!, ranges?.rows.at(-1)!.swrAfter)}</td>
              <td>
                <button
                  type="button"
                  className="link min-h-6 text-sm font-normal"
                  aria-label="working of the total"
                  onClick={() => onWorking('total')}
                >
                  working
                </button>
              </td>
            </tr>
          </tfoot>
        </table>
      </div>
      <p className="sr-only">
        {formatPower(ledger.takenW)} lost of {formatPower(ledger.settingW + ledger.addedW)}.
      </p>
    </section>
  )
}
