import { placesOf, type Presence, type Reading } from '@saltline/contract'
import { decimals, formatFrequency, formatPower } from '@saltline/core'
import { useMemo } from 'react'
import type { LensProps } from '../../editor/lens.ts'
import { type Between, betweenPlaces, endReadings } from '../../model/betweenPlaces.ts'
import { useLive } from '../../platform/api/live.ts'
import { useUnits } from '../../platform/preferences.ts'

/** Who else reads on this chain, and what is lost between the places that are read. */
export function TwoEnds({
  station,
  chainId,
  document,
  channel,
  answer,
  readings,
  open,
  others,
}: Pick<LensProps, 'station' | 'chainId' | 'document' | 'channel' | 'answer'> & {
  readings: readonly Reading[]
  /** Whether their session is open still. */
  open: boolean
  others: readonly Presence[]
}) {
  const live = useLive(chainId)
  const between = useMemo(() => {
    if (!answer.ok) return []
    const known = { station, document, channel, answer }
    // Live figures do not mix with readings of another day.
    const talking = live.filter(({ lost }) => !lost)
    const ends =
      open || talking.length < 2
        ? endReadings(known, readings, open ? live : [])
        : endReadings(known, [], live)
    return betweenPlaces(known, ends)
  }, [station, document, channel, answer, readings, live, open])
  return (
    <>
      {others.length > 0 && (
        <p role="status" className="mb-2 text-sm">
          <span aria-hidden className="mr-1 text-tide">
            ●
          </span>
          {others.map((other) => whoWhere(other, { document, channel })).join('; ')}.
        </p>
      )}
      {between.length > 0 && (
        <table aria-label="Between the places" className="mb-3 w-full text-sm">
          <thead className="text-left text-xs text-muted">
            <tr className="border-b border-rule [&>th]:py-1 [&>th]:pr-3 [&>th]:font-normal">
              <th scope="col">forward power between</th>
              <th scope="col" className="text-right">
                measured
              </th>
              <th scope="col" className="text-right">
                expected
              </th>
              <th scope="col">meters allow</th>
            </tr>
          </thead>
          <tbody>
            {between.map((each) => (
              <Row key={each.from.plane} between={each} />
            ))}
          </tbody>
        </table>
      )}
    </>
  )
}

function Row({ between: { from, to, measuredDb, expectedDb, doubtDb } }: { between: Between }) {
  const { power } = useUnits()
  const outside = Math.abs(measuredDb - expectedDb) > doubtDb
  return (
    <tr className="border-b border-rule align-top [&>td]:py-1.5 [&>td]:pr-3">
      <td>
        {from.name} to {to.name}
        <span className="block text-xs text-muted">
          {formatPower(from.watts, power)}
          {from.live && ', live'}, to {formatPower(to.watts, power)}
          {to.live && ', live'}
        </span>
      </td>
      <td className={`text-right font-bold whitespace-nowrap ${outside ? 'text-danger' : ''}`}>
        {outside && '▲ '}
        {dbText(measuredDb)}
      </td>
      <td className="text-right whitespace-nowrap">{dbText(expectedDb)}</td>
      <td className="whitespace-nowrap text-muted">±&nbsp;{decimals(doubtDb, 1)}&nbsp;dB</td>
    </tr>
  )
}

/** A loss; or a gain, where there is an amplifier between. */
const dbText = (db: number): string =>
  `${decimals(Math.abs(db), 2)}\u00a0dB${db < -0.005 ? ' gain' : ''}`

function whoWhere(
  { by, before, channelId }: Presence,
  { document, channel }: Pick<LensProps, 'document' | 'channel'>,
): string {
  const place = placesOf(document).find((each) => each.before === before)?.name ?? 'elsewhere'
  const other = document.channels.find(({ id }) => id === channelId)
  const on = channelId === channel.id || !other ? '' : `, on ${formatFrequency(other.frequencyHz)}`
  const where = place.startsWith('input') ? `at the ${place}` : place
  return `${by || 'Another device'} reads ${where}${on}`
}
