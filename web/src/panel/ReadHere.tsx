import { otherLens } from '../editor/useChainAddress.ts'
import type { ChainDocument, ChannelDocument, Station } from '@saltline/contract'
import {
  type Chain,
  compareReading,
  correctedW,
  decimals,
  formatPower,
  modeOf,
} from '@saltline/core'
import { useState } from 'react'
import { Link } from 'react-router'
import { useExpectedReading } from '../compute/useExpectedReading.ts'
import { comparedWords } from '../model/comparedWords.ts'
import { meterChoices } from '../model/places.ts'
import { wattsText } from '../model/wattsText.ts'
import { useUnits } from '../platform/preferences.ts'
import { ChoiceField } from '../ui/ChoiceField.tsx'
import { LevelField } from '../ui/quantities.tsx'

interface Props {
  station: Station
  chain: Chain
  document: ChainDocument
  channel: ChannelDocument
  /** Where it stands on the spine. */
  plane: number
}

/** What a meter should show here, and how far what was read is from it. */
export function ReadHere({ station, chain, document, channel, plane }: Props) {
  const { power } = useUnits()
  const choices = meterChoices(station)
  const [meterId, setMeter] = useState<string | null>(null)
  const [read, setRead] = useState<number | null>(null)
  const chosen = choices.find(({ id }) => id === meterId) ?? choices[0]!
  const { expected } = useExpectedReading(chain, document, channel, plane, chosen.meter)
  if (!expected) return null
  const { watts, wattsRange, rangeW } = expected
  const compared =
    read === null
      ? null
      : compareReading(correctedW(chosen.calibration ?? [], read), watts, wattsRange)
  return (
    <section aria-label="Expected and read" className="rounded border border-rule px-3 py-2">
      <p>
        Expect <b>{formatPower(watts, power)}</b>, {wattsText(watts, power, wattsRange)}
      </p>
      <p className="text-sm text-muted">
        {modeOf(channel.mode).name}, {chosen.meter.kind === 'peak' ? 'peak' : 'average'}
        {rangeW !== null && `, on the ${formatPower(rangeW, power)} range`}
        {rangeW === null && chosen.meter.rangesW.length > 0 && ', more than its largest range'}
      </p>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <ChoiceField
          label="Meter"
          value={chosen.id}
          options={choices.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setMeter}
        />
        <LevelField
          label="Read, forward"
          value={read ?? Number(watts.toPrecision(3))}
          onChange={setRead}
        />
      </div>
      {compared && (
        <p role="status" className="mt-1.5 text-sm">
          <b>
            {compared.db < 0 ? '−' : '+'}
            {decimals(Math.abs(compared.db), 1)}&nbsp;dB
          </b>
          : {comparedWords[compared.is]}
        </p>
      )}
      <Link
        className="link mt-1.5 inline-block text-sm"
        to={otherLens('log', { channel: channel.id, select: `plane:${plane}` })}
        relative="path"
      >
        enter it into the log
      </Link>
    </section>
  )
}
