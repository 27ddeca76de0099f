import { ChartView } from '../../ui/chart/ChartView.tsx'
import { antennaChart } from './antennaChart.ts'
import { NoFigure } from '../../ui/NoFigure.tsx'
import { saveFile } from '../../platform/act.ts'
import type { ChainDocument } from '@saltline/contract'
import {
  type Answer,
  decimals,
  formatFrequency,
  formatImpedance,
  formatSwr,
  type FrequencySpan,
} from '@saltline/core'
import { Download } from 'lucide-react'
import { useMemo, useState } from 'react'
import { settingOf } from '../../model/answers.ts'
import { reachOf } from '../../model/reach.ts'
import { type Reach, ReachChoice } from '../../ui/ReachChoice.tsx'
import { type AntennaView, antennaView } from './antennaView.ts'
import { ReflectionChart } from '../../ui/ReflectionChart.tsx'
import { sweepAsCsv, sweepAsTouchstone } from './sweepFiles.ts'
import type { LensProps } from '../../editor/lens.ts'

/** How good is the antenna, and how much of that is the cable's flattery? */
export function AntennaLens({ station, document, chain, answer, channel, onSelect }: LensProps) {
  const [reach, setReach] = useState<Reach>('near')
  const { frequencyHz } = channel
  const powerW = settingOf(document.transmitter, channel)
  const band = useMemo(
    () => reachOf(frequencyHz, reach, chain.load),
    [frequencyHz, reach, chain.load],
  )
  const view = useMemo(
    () => antennaView(chain, band, { powerW, tunedHz: frequencyHz }, station.swrLimit),
    [chain, band, powerW, frequencyHz, station.swrLimit],
  )
  const chart = useMemo(
    () => view && antennaChart(view, frequencyHz, station.swrLimit, document.load.name),
    [view, frequencyHz, station.swrLimit, document.load.name],
  )
  if (!view || !chart) {
    return (
      <p className="max-w-2xl px-5 py-6">
        {!answer.ok && `${answer.message} `}
        Only an SWR is known of {document.load.name}, so there is no impedance to draw. A sweep, R +
        jX, or a few SWR readings on a band would give one.
        <button
          type="button"
          className="button mt-3 flex"
          onClick={() => onSelect({ kind: 'antenna' })}
        >
          Import a sweep, or enter readings…
        </button>
      </p>
    )
  }
  return (
    <div className="grid two:grid-cols-[minmax(270px,1fr)_minmax(0,2fr)_minmax(310px,1fr)]">
      <div className="space-y-3 px-5 py-4 two:border-r two:border-rule">
        {answer.ok ? (
          <Verdict
            station={station}
            document={document}
            answer={answer}
            view={view}
            channel={channel}
          />
        ) : (
          <NoFigure message={answer.message} />
        )}
        <div className="flex flex-wrap gap-2 border-t border-rule pt-3">
          <Save
            name={`${document.load.name}.s1p`}
            text={() => sweepAsTouchstone(document.load.name, view)}
          >
            Touchstone
          </Save>
          <Save name={`${document.load.name}.csv`} text={() => sweepAsCsv(view)}>
            CSV
          </Save>
        </div>
      </div>
      <section
        aria-label="Antenna over frequency"
        className="flex h-[336px] flex-col px-5 py-3 two:border-r two:border-rule"
      >
        <div className="flex items-center justify-between text-sm">
          <h2 className="text-muted">Over frequency</h2>
          <div className="flex">
            <ReachChoice value={reach} onChange={setReach} />
          </div>
        </div>
        <div className="relative min-h-0 flex-1">
          <ChartView chart={chart} />
        </div>
      </section>
      <section aria-label="Reflection" className="px-5 py-3">
        <h2 className="mb-1 text-sm text-muted">Reflection at the feed point</h2>
        {view.phaseKnown ? (
          <ReflectionChart
            frequencyHz={view.frequencyHz}
            reflection={view.reflection}
            channelHz={frequencyHz}
            swrLimit={station.swrLimit}
            here={answer.ok ? answer.solution.planes.at(-1)!.reflection : null}
          />
        ) : (
          <p className="text-sm">
            Only the SWR was measured, so there is no angle to draw and no R or X. An analyser’s
            sweep would give them.
          </p>
        )}
      </section>
    </div>
  )
}

const widthOf = (spans: readonly FrequencySpan[]): number =>
  spans.reduce((sum, { lowHz, highHz }) => sum + highHz - lowHz, 0)

function Verdict({
  station,
  document,
  answer,
  view,
  channel,
}: Pick<LensProps, 'station' | 'document' | 'channel'> & { answer: Answer; view: AntennaView }) {
  const { planes } = answer.solution
  const there = planes.at(-1)!
  const here = planes[0]!
  const at = channel.frequencyHz
  const inside = view.usable.some(({ lowHz, highHz }) => at >= lowHz && at <= highHz)
  const seems = view.seemsUsable.some(({ lowHz, highHz }) => at >= lowHz && at <= highHz)
  const gained = widthOf(view.seemsUsable) - widthOf(view.usable)
  return (
    <>
      <p className="text-[18px] leading-snug">
        On {formatFrequency(at)} {document.load.name} has an <b>SWR of {formatSwr(there.swr)}</b>;
        the radio sees {formatSwr(here.swr)}.{' '}
        {seems && !inside
          ? `It looks good at the radio only because ${hiders(document)} it.`
          : inside
            ? `That is inside the station’s limit of ${formatSwr(station.swrLimit)}.`
            : `That is over the station’s limit of ${formatSwr(station.swrLimit)}.`}
      </p>
      <dl className="space-y-2 border-t border-rule pt-3 text-sm">
        {view.phaseKnown && (
          <div>
            <dt className="text-muted">Impedance there</dt>
            <dd className="text-base font-bold">{formatImpedance(there.impedanceOhm)}</dd>
          </div>
        )}
        <div>
          <dt className="text-muted">Under SWR {formatSwr(station.swrLimit)} at the feed point</dt>
          <dd className="font-bold">{spansText(view.usable)}</dd>
        </div>
        <div>
          <dt className="text-muted">as seen at the radio</dt>
          <dd className="font-bold">{spansText(view.seemsUsable)}</dd>
        </div>
      </dl>
      {/* What would be written as nothing is not said. */}
      {gained >= 5000 && (
        <p className="text-sm text-muted">
          At the radio {decimals(gained / 1e6, 2)} MHz more look usable than are at the antenna.
        </p>
      )}
    </>
  )
}

/** What stands between the radio and the truth. */
const hiders = ({ stages }: ChainDocument): string =>
  stages.some(({ kind, bypassed }) => kind === 'tuner' && !bypassed)
    ? 'tuner and cable hide'
    : 'the cable hides'

const spansText = (spans: readonly FrequencySpan[]): string =>
  spans.length === 0
    ? 'nowhere in this band'
    : spans
        .map(
          ({ lowHz, highHz, openLow, openHigh }) =>
            `${openLow ? 'from below ' : ''}${decimals(lowHz / 1e6, 3)} to ${decimals(highHz / 1e6, 3)} MHz${openHigh ? ' and beyond' : ''}`,
        )
        .join(', ')

function Save({
  name,
  text,
  children,
}: {
  name: string
  text: () => string
  children: React.ReactNode
}) {
  const save = () => saveFile(name, text(), 'text/plain')
  return (
    <button type="button" className="button" onClick={save}>
      <Download size={14} aria-hidden /> {children}
    </button>
  )
}
