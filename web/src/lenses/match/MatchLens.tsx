import { ChartView } from '../../ui/chart/ChartView.tsx'
import { matchChart } from './matchChart.ts'
import { useSource } from '../../platform/store.ts'
import { useUnits } from '../../platform/preferences.ts'
import type { ChainDocument } from '@saltline/contract'
import {
  formatFrequency,
  formatSwr,
  type PlaceRanges,
  tunerPlaces,
  type TunerStage,
} from '@saltline/core'
import { useMemo, useState } from 'react'
import { useWorthRanges } from '../../compute/ranges.ts'
import { HowSure } from '../../panel/HowSure.tsx'
import { NoFigure } from '../../ui/NoFigure.tsx'
import { operatingPoint, settingOf } from '../../model/answers.ts'
import { tunerKinds } from '../../model/stages/tuner.ts'
import { rangeText, wattsText } from '../../model/wattsText.ts'
import { reachOf } from '../../model/reach.ts'
import { type Reach, ReachChoice } from '../../ui/ReachChoice.tsx'
import { SwrAlong } from './SwrAlong.tsx'
import { ProgressBar } from '../../compute/ProgressBar.tsx'
import type { TunerPlaces } from '../../compute/tasks/tunerPlaces.ts'
import { useTask, type Watched } from '../../compute/useTask.ts'
import { howSureOf, placeNames, verdictOf } from './verdict.ts'
import { useLead } from '../../editor/lead.ts'
import type { LensProps } from '../../editor/lens.ts'

const POINTS = 300

/** The tuner to ask about: the chain's first, or a usual one. */
function tunerOf({ stages }: ChainDocument): {
  tuner: TunerStage
  id: string | null
  name: string
} {
  const own = stages.find((stage) => stage.kind === 'tuner')
  return own
    ? { tuner: own, id: own.id, name: own.name }
    : { tuner: tunerKinds.hand, id: null, name: 'a usual T tuner' }
}

/** What does each part of the chain see, and is a tuner worth it here? */
export function MatchLens(props: LensProps) {
  const lead = useLead()
  const { document, chain, answer, channel, onSelect } = props
  const { power } = useUnits()
  const { tuner, id, name } = useMemo(() => tunerOf(document), [document])
  const request = useMemo(
    () => ({
      chain,
      tuner,
      channels: document.channels.map((each) => ({
        id: each.id,
        at: operatingPoint(document.transmitter, each),
      })),
    }),
    [document.channels, document.transmitter, chain, tuner],
  )
  const { running, problem, last: worth } = useTask('tunerPlaces', request)
  const here = worth?.[channel.id]
  const ranges = useWorthRanges(document, chain, tuner)
  const sure = ranges.of(channel.id)
  return (
    <div className="grid grid-cols-1 two:grid-cols-[minmax(260px,4fr)_minmax(530px,6fr)] three:grid-cols-[minmax(260px,4fr)_minmax(530px,6fr)_minmax(290px,4fr)]">
      <div className="space-y-3 px-5 py-4 two:border-r two:border-rule">
        {!answer.ok && <NoFigure message={answer.message} />}
        {answer.ok &&
          lead(
            <p role="status" className="min-h-12 text-[18px] leading-snug">
              {here && (
                <>
                  On {formatFrequency(channel.frequencyHz)}: {verdictOf(here, power).words}
                </>
              )}
              {!worth && running && 'Trying the tuner in each place…'}
              {problem !== null && `⚠ ${problem}`}
            </p>,
          )}
        <p className="text-sm text-muted">
          {id === null ? (
            <>There is no tuner in this chain; the figures are for {name}.</>
          ) : (
            <>
              The figures are for{' '}
              <button
                type="button"
                className="link"
                onClick={() => onSelect({ kind: 'stage', id })}
              >
                {name}
              </button>
              , the same tuner in each place.
            </>
          )}
        </p>
        {answer.ok && (
          <HowSure document={document} edit={props.edit} run={ranges} samples="1 000">
            {here && sure && <p>{howSureOf(here, sure)}</p>}
          </HowSure>
        )}
        {answer.ok && (
          <section aria-label="SWR along the chain" className="border-t border-rule pt-2">
            <h2 className="mb-1 text-sm text-muted">SWR along the chain</h2>
            <SwrAlong document={document} answer={answer} />
          </section>
        )}
      </div>
      <div className="min-w-0 px-5 py-3 three:border-r three:border-rule">
        <h2 className="mb-1 text-sm text-muted">Is a tuner worth it?</h2>
        {worth && <PlacesTable {...props} worth={worth} rangesOf={ranges.of} />}
      </div>
      <OverBand {...props} tuner={tuner} />
    </div>
  )
}

function PlacesTable({
  document,
  channel,
  worth,
  rangesOf,
  onPick,
}: Pick<LensProps, 'document' | 'channel' | 'onPick'> & {
  worth: TunerPlaces
  rangesOf: (channelId: string) => PlaceRanges[] | null
}) {
  const { power } = useUnits()
  return (
    <table className="w-full text-right text-sm">
      <thead className="text-muted">
        <tr className="border-b border-rule [&>th]:py-1.5 [&>th]:pl-2 [&>th]:font-normal">
          <th scope="col" className="!pl-0 text-left">
            channel
          </th>
          <th scope="col">antenna</th>
          <th scope="col">tuner heat</th>
          <th scope="col" className="max-sm:hidden">
            cable heat
          </th>
          <th scope="col" className="max-sm:hidden">
            not delivered
          </th>
          <th scope="col">SWR seen</th>
        </tr>
      </thead>
      {document.channels.map((each) => {
        const answers = worth[each.id]
        const best = answers && verdictOf(answers).best.place
        const ranges = rangesOf(each.id)
        return (
          <tbody key={each.id} className={each.id === channel.id ? 'bg-paper' : ''}>
            <tr>
              <th scope="rowgroup" colSpan={6} className="pt-2 text-left font-bold">
                <button
                  type="button"
                  className="hover:text-tide"
                  aria-pressed={each.id === channel.id}
                  onClick={() => onPick(each.id)}
                >
                  {formatFrequency(each.frequencyHz)}
                </button>
                {answers === null && <span className="font-normal text-muted"> no figure</span>}
              </th>
            </tr>
            {answers?.map((answer) => {
              const range = ranges?.find(({ place }) => place === answer.place)
              return (
                <tr
                  key={answer.place}
                  className={`[&>td]:py-0.5 [&>td]:pl-2 ${answer.place === best ? '' : 'text-muted'} ${answer.place === tunerPlaces.at(-1) ? 'border-b border-rule' : ''}`}
                >
                  <th scope="row" className="py-0.5 text-left font-normal sm:whitespace-nowrap">
                    {answer.place === best ? '✓ ' : '\u2003'}
                    {placeNames[answer.place]}
                  </th>
                  <td className="font-bold whitespace-nowrap">
                    {wattsText(
                      answer.antennaW,
                      power,
                      range?.antennaW ?? answer.antennaWRange ?? undefined,
                    )}
                  </td>
                  <td>
                    {answer.place === 'none' ? '' : wattsText(answer.tunerW, 'W', range?.tunerW)}
                  </td>
                  <td className="max-sm:hidden">{wattsText(answer.cableW, 'W', range?.cableW)}</td>
                  <td className="max-sm:hidden">
                    {wattsText(answer.heldBackW, 'W', range?.heldBackW)}
                  </td>
                  <td className="min-w-16">
                    {rangeText(answer.swr, range?.swr, formatSwr)}
                    {!answer.matched && <span title="it cannot match here"> ✕</span>}
                  </td>
                </tr>
              )
            })}
          </tbody>
        )
      })}
    </table>
  )
}

const Tuned = ({ of }: { of: Watched }) => (
  <p>
    Tuning on {useSource(of).done} of {POINTS} frequencies…
  </p>
)

function OverBand({
  document,
  chain,
  channel,
  tuner,
}: Pick<LensProps, 'document' | 'chain' | 'channel'> & { tuner: TunerStage }) {
  const [reach, setReach] = useState<Reach>('near')
  const { frequencyHz, mode } = channel
  const powerW = settingOf(document.transmitter, channel)
  const request = useMemo(
    () => ({
      chain,
      tuner,
      ...reachOf(frequencyHz, reach, chain.load),
      points: POINTS,
      at: { powerW, mode },
    }),
    [chain, tuner, frequencyHz, reach, powerW, mode],
  )
  const { power } = useUnits()
  const { run, result, progress, stop, start } = useTask('match', request)
  const chart = useMemo(
    () => result && matchChart(result, frequencyHz, power),
    [result, frequencyHz, power],
  )
  return (
    <section
      aria-label="Over the band"
      className="col-span-full flex h-[350px] flex-col border-rule px-5 py-3 not-three:border-t three:col-span-1"
    >
      <div className="flex items-center justify-between gap-2 text-sm">
        <h2 className="text-muted">Over the band, retuned everywhere</h2>
        <div className="flex">
          <ReachChoice value={reach} onChange={setReach} />
        </div>
      </div>
      <div className="relative min-h-0 flex-1">
        {chart && <ChartView chart={chart} />}
        {run?.state === 'running' && (
          <div className="space-y-2 p-4 text-sm">
            <Tuned of={progress} />
            <ProgressBar className="w-full accent-tide" of={progress} max={POINTS} />
            <button type="button" className="button" onClick={stop}>
              Stop
            </button>
          </div>
        )}
        {run?.state === 'stopped' && (
          <button type="button" className="button m-4" onClick={start}>
            Work it out
          </button>
        )}
        {run?.state === 'problem' && <p className="p-4 text-danger">⚠ {run.message}</p>}
      </div>
    </section>
  )
}
