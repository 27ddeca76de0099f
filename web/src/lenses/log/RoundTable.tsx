import { useUnits } from '../../platform/preferences.ts'
import { type ChainDocument, clockText, type Reading, type Station } from '@saltline/contract'
import { decimals, formatPower, formatSwr, swrRead } from '@saltline/core'
import { Pencil, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { putBackIntoLog, removeFromLog } from '../../platform/api/logQueries.ts'
import { actOnRecord } from '../../platform/wayBack.ts'
import { CorrectReading } from './CorrectReading.tsx'
import { Against } from './Against.tsx'
import { onText } from '../../model/places.ts'

/** The readings of a round, newest last, each against what was expected of it. */
export function RoundTable({
  readings,
  station,
  document,
}: {
  readings: readonly Reading[]
  station: Station
  document: ChainDocument
}) {
  const [correcting, setCorrecting] = useState<Reading | null>(null)
  if (readings.length === 0)
    return <p className="py-6 text-center text-muted">No reading in this session yet.</p>
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-sm" aria-label="Readings of the session">
        <thead className="text-left text-xs text-muted">
          <tr className="border-b border-rule [&>th]:py-1 [&>th]:pr-3 [&>th]:font-normal">
            <th scope="col">where, on what</th>
            <th scope="col" className="text-right">
              forward
            </th>
            <th scope="col">against expected</th>
            <th scope="col" className="text-right">
              SWR
            </th>
            <th scope="col" className="max-sm:hidden">
              expected
            </th>
            <th scope="col">
              <span className="sr-only">Delete</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {readings.map((reading) => (
            <Row key={reading.id} reading={reading} onCorrect={() => setCorrecting(reading)} />
          ))}
        </tbody>
      </table>
      {correcting && (
        <CorrectReading
          key={correcting.id}
          reading={correcting}
          station={station}
          document={document}
          onClose={() => setCorrecting(null)}
        />
      )}
    </div>
  )
}

function Row({ reading, onCorrect }: { reading: Reading; onCorrect: () => void }) {
  const { power } = useUnits()
  const { forwardW, expectedW, lowW, highW, expectedSwr, lowSwr, highSwr } = reading
  const swr = swrRead(reading)
  const swrInside =
    swr === null || lowSwr === null || (swr >= lowSwr && swr <= (highSwr ?? Infinity))
  const rest = [
    clockText(reading.readAt),
    reading.instrument,
    reading.by,
    reading.supplyV === null ? '' : `${decimals(reading.supplyV, 1)}\u00a0V`,
    reading.note,
  ].filter(Boolean)
  return (
    <tr className="border-b border-rule align-top [&>td]:py-1.5 [&>td]:pr-3">
      <td>
        <b className="font-normal">{reading.place}</b>, {onText(reading)}
        <span className="block text-xs text-muted">{rest.join(', ')}</span>
      </td>
      <td className="text-right whitespace-nowrap">
        {forwardW === null ? '' : formatPower(forwardW, power)}
      </td>
      <td>
        {forwardW !== null && expectedW !== null && (
          <>
            <span className="max-sm:hidden">
              <Against
                value={forwardW}
                low={lowW!}
                expected={expectedW}
                high={highW!}
                logarithmic
              />
            </span>
            <span className="block text-xs text-muted">
              of {formatPower(expectedW, power)}, {dbText(forwardW, expectedW)}
            </span>
          </>
        )}
      </td>
      <td className={`text-right ${swrInside ? '' : 'text-danger'}`}>
        {swr === null ? '' : `${swrInside ? '' : '▲ '}${formatSwr(swr)}`}
      </td>
      <td className="text-muted max-sm:hidden">
        {expectedSwr === null ? '' : formatSwr(expectedSwr)}
      </td>
      <td className="!pr-0 text-right whitespace-nowrap">
        <button
          type="button"
          className="quiet"
          aria-label={`Correct the reading ${reading.place}`}
          onClick={onCorrect}
        >
          <Pencil size={14} aria-hidden />
        </button>
        <button
          type="button"
          className="quiet"
          aria-label={`Delete the reading ${reading.place}`}
          onClick={() => void remove(reading)}
        >
          <Trash2 size={14} aria-hidden />
        </button>
      </td>
    </tr>
  )
}

const dbText = (read: number, expected: number): string => {
  const db = 10 * Math.log10(read / expected)
  return Number.isFinite(db) ? `${db < 0 ? '−' : '+'}${decimals(Math.abs(db), 1)}\u00a0dB` : '−∞'
}

const remove = ({ id, place }: Reading) =>
  actOnRecord(async () => {
    await removeFromLog('readings', id)
    return { said: `Deleted: the reading ${place}`, undo: () => putBackIntoLog('readings', id) }
  })
