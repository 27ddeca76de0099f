import type { ChannelAnswer } from '../../chain/answers.ts'
import { NoFigure } from '../../parts/NoFigure.tsx'
import { saveFile } from '../../app/act.ts'
import type { ChainDocument, ChannelDocument, Station } from '@saltline/contract'
import {
  type Answer,
  type Chain,
  decimals,
  formatFrequency,
  formatImpedance,
  formatSwr,
  type FrequencySpan,
} from '@saltline/core'
import { Download } from 'lucide-react'
import { lazy, Suspense, useMemo, useState } from 'react'
import { settingOf } from '../../chain/answers.ts'
import { type Reach, ReachChoice, reachOf } from '../reach.tsx'
import { type AntennaView, antennaView } from './antennaView.ts'
import { ReflectionChart } from './ReflectionChart.tsx'
import { sweepAsCsv, sweepAsTouchstone } from './sweepFiles.ts'

const AntennaChart = lazy(() => import('./AntennaChart.tsx'))

interface Props {
  station: Station
  document: ChainDocument
  chain: Chain
  answer: ChannelAnswer
  channel: ChannelDocument
}

/** How good is the antenna, and how much of that is the cable's flattery? */
export function AntennaLens({ station, document, chain, answer, channel }: Props) {
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
  if (!view) {
    return (
      <p className="max-w-2xl px-5 py-6">
        {!answer.ok && `${answer.message} `}
        Only an SWR is known of {document.load.name}, so there is no impedance to draw. Import a
        sweep, give R + jX, or fit a few SWR readings: press the antenna on the spine.
      </p>
    )
  }
  return (
    <div className="grid lg:grid-cols-[minmax(270px,1fr)_minmax(0,2fr)_minmax(310px,1fr)]">
      <div className="space-y-3 px-5 py-4 lg:border-r lg:border-rule">
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
        className="flex h-[336px] flex-col px-5 py-3 lg:border-r lg:border-rule"
      >
        <div className="flex items-center justify-between text-sm">
          <h2 className="text-muted">Over frequency</h2>
          <div className="flex">
            <ReachChoice value={reach} onChange={setReach} />
          </div>
        </div>
        <div className="relative min-h-0 flex-1">
          <Suspense fallback={null}>
            <AntennaChart
              view={view}
              channelHz={frequencyHz}
              swrLimit={station.swrLimit}
              name={document.load.name}
            />
          </Suspense>
        </div>
      </section>
      <section aria-label="Reflection" className="px-5 py-3">
        <h2 className="mb-1 text-sm text-muted">Reflection at the feed point</h2>
        {view.phaseKnown ? (
          <ReflectionChart
            view={view}
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
}: Omit<Props, 'chain' | 'answer'> & { answer: Answer; view: AntennaView }) {
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
        On {formatFrequency(at)} {document.load.name} stands at <b>SWR {formatSwr(there.swr)}</b>;
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
          <dt className="text-muted">as it seems at the radio</dt>
          <dd className="font-bold">{spansText(view.seemsUsable)}</dd>
        </div>
      </dl>
      {gained > 1000 && (
        <p className="text-sm text-muted">
          What lies between flatters: it adds {decimals(gained / 1e6, 2)} MHz that only look usable.
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
