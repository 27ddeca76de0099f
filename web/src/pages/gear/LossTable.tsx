import { Scroll } from '../../ui/Scroll.tsx'
import { act, copyText } from '../../platform/act.ts'
import type { ChannelDocument, Station } from '@saltline/contract'
import { decimals, formatFrequency, formatPower, type LossCell, lossTable } from '@saltline/core'
import { useQueries } from '@tanstack/react-query'
import { Copy, Printer } from 'lucide-react'
import { useMemo, useState } from 'react'
import { chainQuery } from '../../platform/api/queries.ts'
import { LengthField, LevelField } from '../../ui/quantities.tsx'
import type { CableRow } from './cableRow.ts'

const SWRS = [1, 1.5, 2, 3, 5, 7, 10]

/** A loss table of the operator's own: this cable, this length, all my channels, SWR 1 to 10. */
export function LossTable({ row, station }: { row: CableRow; station: Station }) {
  const [lengthM, setLengthM] = useState(30)
  const [powerW, setPowerW] = useState(100)
  const [shown, setShown] = useState<'total' | 'added' | 'watts'>('total')
  const chains = useQueries({
    // Only read here: the chain's own page holds its editor.
    queries: station.chains.map(({ id }) => ({
      ...chainQuery(id),
      gcTime: 60_000,
      staleTime: 60_000,
      queryKey: ['chain-read', id],
    })),
  })
  const channels = distinct(chains.flatMap(({ data }) => data?.document.channels ?? []))
  const key = channels.join()
  const table = useMemo(
    () => lossTable(row.cable, lengthM, key ? key.split(',').map(Number) : [], SWRS, powerW),
    [row.cable, lengthM, key, powerW],
  )
  const figure = (cell: LossCell) =>
    shown === 'watts'
      ? formatPower(cell.outW)
      : decimals(shown === 'total' ? cell.totalDb : Math.max(0, cell.additionalDb), 2)
  const copy = () =>
    act(async () => {
      const head = ['MHz', 'matched dB', ...SWRS.map((swr) => `SWR ${swr}`)]
      const body = table.map((cells) => [
        cells[0]!.frequencyHz / 1e6,
        cells[0]!.matchedDb.toFixed(3),
        ...cells.map(figure),
      ])
      await copyText([head, ...body].map((line) => line.join('\t')).join('\n'))
      return { said: 'The table is copied, with tabs between the columns.' }
    })
  return (
    <section aria-label="Loss table" className="printable">
      <div className="mb-2 flex items-baseline justify-between gap-2">
        <h3 className="font-bold">
          My loss table: {row.name}, {decimals(lengthM, 1).replace(/\.0$/, '')} m,{' '}
          {formatPower(powerW)} in
        </h3>
        <div className="flex print:hidden">
          <button
            type="button"
            className="quiet !px-1.5"
            aria-label="Copy the table"
            onClick={() => void copy()}
          >
            <Copy size={14} aria-hidden />
          </button>
          <button
            type="button"
            className="quiet !px-1.5"
            aria-label="Print the table"
            onClick={() => window.print()}
          >
            <Printer size={14} aria-hidden />
          </button>
        </div>
      </div>
      <div className="mb-2 grid grid-cols-2 items-start gap-3 sm:grid-cols-[1fr_1fr_auto] print:hidden">
        <LengthField label="Length" value={lengthM} onChange={setLengthM} />
        <LevelField label="Power into it" value={powerW} onChange={setPowerW} />
        <div className="flex pt-4" role="group" aria-label="Show">
          {(['total', 'added', 'watts'] as const).map((what) => (
            <button
              key={what}
              type="button"
              aria-pressed={shown === what}
              className={`quiet !px-2 text-sm ${shown === what ? '!text-tide font-bold' : ''}`}
              onClick={() => setShown(what)}
            >
              {{ total: 'total dB', added: 'added dB', watts: 'watts out' }[what]}
            </button>
          ))}
        </div>
      </div>
      <Scroll label="Loss table">
        <table className="w-full text-right text-sm">
          <thead>
            <tr className="border-b border-rule text-muted [&>th]:py-1 [&>th]:font-normal">
              <th scope="col" className="text-left">
                my channels
              </th>
              <th scope="col">matched</th>
              {SWRS.map((swr) => (
                <th key={swr} scope="col">
                  SWR {swr}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.map((cells) => (
              <tr key={cells[0]!.frequencyHz} className="border-b border-rule">
                <th scope="row" className="py-0.5 text-left font-normal whitespace-nowrap">
                  {formatFrequency(cells[0]!.frequencyHz)}
                </th>
                <td className="text-muted">{decimals(cells[0]!.matchedDb, 2)}</td>
                {cells.map((cell) => (
                  <td key={cell.swr} className="pl-1.5 whitespace-nowrap">
                    {figure(cell)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
      <p className="mt-1 text-xs text-muted">
        SWR at the antenna. Loss of the cable alone; the mean over the phase of the reflection,
        which matters where the cable is short.
      </p>
    </section>
  )
}

const distinct = (channels: readonly ChannelDocument[]): number[] =>
  [...new Set(channels.map(({ frequencyHz }) => frequencyHz))].sort((a, b) => a - b)
