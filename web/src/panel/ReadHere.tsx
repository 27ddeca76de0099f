import type { ChannelDocument } from '@saltline/contract'
import {
  compareReading,
  decimals,
  expectOn,
  formatPercent,
  formatPower,
  type Meter,
  type MeterKind,
  modeOf,
  usualMeter,
} from '@saltline/core'
import { useState } from 'react'
import { Link } from 'react-router'
import { ChoiceField } from '../parts/ChoiceField.tsx'
import { PowerField } from '../parts/quantities.tsx'

/** What a meter should show here, and how far what was read is from it. */
export function ReadHere({
  pepW,
  channel,
  plane,
}: {
  pepW: number
  channel: ChannelDocument
  /** Where it stands on the spine. */
  plane: number
}) {
  const [kind, setKind] = useState<MeterKind>('averaging')
  const [read, setRead] = useState<number | null>(null)
  const meter: Meter = { ...usualMeter, kind }
  const expected = expectOn(meter, pepW, channel)
  const compared = read === null ? null : compareReading(read, expected.watts, expected.doubtW)
  const range =
    expected.rangeW === null
      ? 'more than its largest range'
      : `on the ${formatPower(expected.rangeW)} range, ${formatPercent(expected.ofScale)} of the scale, ± ${formatPower(expected.doubtW)}`
  return (
    <section aria-label="Expected and read" className="rounded border border-rule px-3 py-2">
      <p>
        Expect <b>{formatPower(expected.watts)}</b> on the {kind} meter
      </p>
      <p className="text-sm text-muted">
        {modeOf(channel.mode).name}: {range}
      </p>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <ChoiceField<MeterKind>
          label="The meter shows"
          value={kind}
          options={[
            { value: 'averaging', label: 'the average' },
            { value: 'peak', label: 'the peak, PEP' },
          ]}
          onChange={setKind}
        />
        <PowerField
          label="Read, forward"
          value={read ?? Number(expected.watts.toPrecision(3))}
          onChange={setRead}
        />
      </div>
      {compared && (
        <p role="status" className="mt-1.5 text-sm">
          <b>
            {compared.db < 0 ? '−' : '+'}
            {decimals(Math.abs(compared.db), 1)}&nbsp;dB
          </b>
          : {compared.words}
        </p>
      )}
      <Link
        className="link mt-1.5 inline-block text-sm"
        to={`../log?${new URLSearchParams({ channel: channel.id, select: `plane:${plane}` })}`}
        relative="path"
      >
        enter it into the log
      </Link>
    </section>
  )
}
