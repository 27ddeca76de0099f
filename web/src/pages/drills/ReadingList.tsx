import { type FindDrill, formatPower, formatSwr, type MeterReading, swrRead } from '@saltline/core'
import { useUnits } from '../../platform/preferences.ts'
import { siteText } from '../../model/drillWords.ts'

/** What was read: the record that was there, and what the learner has noted, at full power. */
export function ReadingList({
  drill,
  readings,
  answered,
}: {
  drill: FindDrill
  readings: readonly MeterReading[]
  /** Whether something was put right since the record was made. */
  answered: boolean
}) {
  return (
    <section aria-label="Readings" className="text-sm">
      <h3 className="text-muted">
        Read this morning{answered && ', before anything was put right'}
      </h3>
      <List drill={drill} readings={drill.record} />
      {readings.length > 0 && (
        <>
          <h3 className="mt-2 text-muted">Yours, as at full power</h3>
          <List drill={drill} readings={readings} />
        </>
      )}
    </section>
  )
}

function List({ drill, readings }: { drill: FindDrill; readings: readonly MeterReading[] }) {
  const { power } = useUnits()
  return (
    <ol>
      {readings.map((reading, i) => {
        const swr = swrRead(reading)
        return (
          <li key={i} className="border-b border-rule py-0.5 last:border-0">
            <b>{formatPower(reading.forwardW!, power)}</b>
            {reading.reflectedW !== undefined && (
              <>
                , {formatPower(reading.reflectedW, power)} back
                {swr !== null && `, SWR ${formatSwr(swr)}`}
              </>
            )}{' '}
            <span className="text-muted">{siteText(drill, reading)}</span>
          </li>
        )
      })}
    </ol>
  )
}
