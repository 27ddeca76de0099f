import { wattsText } from '../../model/wattsText.ts'
import type { ChainState, ChannelDocument, Station } from '@saltline/contract'
import { useUnits } from '../../platform/preferences.ts'
import { floorPower, formatFrequency, formatPower, formatSwr, modeOf } from '@saltline/core'
import { today } from '../../platform/today.ts'
import { radiatedOf } from '../../model/radiated.ts'
import { lacksGain, partName } from '../../model/headroomWords.ts'
import type { CardLine, CardRow, MeterReading } from './cardRow.ts'
import type { Paper } from '../../ui/paper.ts'

interface Props {
  station: Station
  state: ChainState
  rows: readonly { channel: ChannelDocument; line: CardLine }[]
  paper: Paper
  scale: number
  /** As `2 of 3`, where there are more. */
  page: string | null
}

/** One page for the wall: what to set, what to read, where to stop. */
export function Card({ station, state, rows, paper, scale, page }: Props) {
  const { document, revision } = state
  return (
    <article
      aria-label="Operating card"
      className="card always-day flex break-after-page flex-col bg-sheet text-ink last:break-after-auto"
      style={{
        width: `${paper.widthMm}mm`,
        minHeight: `${paper.heightMm - 1}mm`,
        ['--card-scale' as string]: scale,
      }}
    >
      <header className="flex items-end justify-between border-b-2 border-ink pb-1">
        <div>
          <p className="card-small text-muted">
            {station.name}: operating card{page && `, page ${page}`}
          </p>
          <h2 className="card-title font-bold">{document.name}</h2>
        </div>
        <p className="card-small text-right">
          {today()}, revision {revision}
          <span className="block text-muted">
            {document.transmitter.name} to {document.load.name}
          </span>
        </p>
      </header>
      <table className="mt-1 w-full text-left">
        <thead className="card-small text-muted">
          <tr className="border-b border-ink [&>th]:py-0.5 [&>th]:pr-2 [&>th]:align-bottom [&>th]:font-normal">
            <th scope="col">channel</th>
            <th scope="col">set, PEP</th>
            <th scope="col">tuner</th>
            <th scope="col">the meter reads; normal range</th>
            <th scope="col">at the antenna</th>
            <th scope="col">most, PEP</th>
            <th scope="col">stop if</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ channel, line }) => (
            <tr
              key={channel.id}
              className="border-b border-rule align-top [&>*]:py-[1.2mm] [&>*]:pr-2"
            >
              <th scope="row" className="text-left font-normal">
                <b className="card-figure block whitespace-nowrap">
                  {formatFrequency(channel.frequencyHz)}
                </b>
                <span className="card-small block text-muted">
                  {channel.name ?? modeOf(channel.mode).short}
                </span>
              </th>
              {line.ok ? (
                <Figures row={line.row} document={document} channel={channel} />
              ) : (
                <NoFigure why={line.message} />
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <footer className="card-small mt-auto grid grid-cols-[3fr_2fr] gap-4 pt-2">
        <p>
          <b>Before keying:</b> antenna or load connected and tight, frequency clear, identify,
          lowest power first. Power up after connecting, down before disconnecting. <b>Stop</b> at
          once if reflected power jumps, forward power drops by half, or anything smells, hums or
          gets hot.
        </p>
        <p className="text-muted">
          Normal: forward within the range given (nine of ten), SWR as given or a little more. RF
          burns: keep off antenna and feeder. Local rules and licensed practice come first.
        </p>
      </footer>
    </article>
  )
}

const NoFigure = ({ why }: { why: string }) => (
  <td colSpan={6} className="text-muted">
    {why}
  </td>
)

function Figures({
  row,
  document,
  channel,
}: {
  row: CardRow
  document: ChainState['document']
  channel: ChannelDocument
}) {
  const { power } = useUnits()
  const radiated = radiatedOf(document, channel, row.antennaW, row.antennaRange ?? undefined)
  const { setW, wantedW, tuners, meters, antennaW, antennaRange, most, allowedW, stopSwr } = row
  return (
    <>
      <td>
        <b className="card-figure whitespace-nowrap">
          {setW > 0 ? formatPower(setW, power) : 'nothing'}
        </b>
        {wantedW > setW && (
          <span className="card-small block text-danger">
            ▲ {formatPower(wantedW, power)} is too much
          </span>
        )}
        {lacksGain(document, channel) && (
          <span className="card-small block text-danger">
            ▲ licence not judged: no antenna gain
          </span>
        )}
      </td>
      <td>
        {tuners.length === 0 && <span className="text-muted">none</span>}
        {tuners.map(({ name, setting, dials }) => (
          <span key={name} className="block">
            {dials ? <b className="whitespace-nowrap">{dials}</b> : <span>{name}</span>}
            <span className="card-small block text-muted">{setting}</span>
          </span>
        ))}
      </td>
      <td>
        {meters.map((meter) => (
          <Reading key={meter.name} meter={meter} named={meters.length > 1} />
        ))}
      </td>
      <td className="whitespace-nowrap">
        <b className="card-figure block">{formatPower(antennaW, power)}</b>
        {antennaRange && (
          <span className="card-small block text-muted">
            {wattsText(antennaW, power, antennaRange)}
          </span>
        )}
        {radiated && (
          <span className="card-small block">
            {radiated.kind} {wattsText(radiated.watts, power, radiated.range)}
          </span>
        )}
      </td>
      <td>
        <b className="whitespace-nowrap">
          {Number.isFinite(allowedW) ? formatPower(allowedW, power) : 'not known'}
        </b>
        <span className="card-small block text-muted">
          {most.by && Number.isFinite(most.powerW)
            ? `${partName(document, most.by.part)}${floorPower(most.powerW) === allowedW ? '' : `, ${formatPower(floorPower(most.powerW), power)}`}`
            : 'no limit known'}
        </span>
      </td>
      <td className="whitespace-nowrap">
        SWR over <b>{formatSwr(stopSwr)}</b>
      </td>
    </>
  )
}

function Reading({ meter, named }: { meter: MeterReading; named: boolean }) {
  const { power } = useUnits()
  const { name, forward, shows, reflectedPepW, forwardPepW, swr, normalSwr } = meter
  const { low, high } = forward.wattsRange
  return (
    <span className="block whitespace-nowrap">
      {named && <span className="card-small block text-muted">{name}</span>}
      <b>{formatPower(forward.watts, power)}</b> {shows === 'peak' ? 'PEP' : 'average'}, SWR{' '}
      <b>{formatSwr(swr)}</b>
      <span className="card-small block text-muted">
        {wattsText(forward.watts, power, { low, high })}, SWR to {formatSwr(normalSwr)}
      </span>
      {reflectedPepW > forwardPepW * 0.005 && (
        <span className="card-small block text-muted">
          reflected {formatPower(reflectedPepW, power)} PEP
        </span>
      )}
    </span>
  )
}
