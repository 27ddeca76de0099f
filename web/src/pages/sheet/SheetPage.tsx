import type { ChainState, Station } from '@saltline/contract'
import {
  calibratedMeter,
  type ExpandedStep,
  formatFrequency,
  formatPower,
  formatSwr,
  type PowerUnit,
  type RunSheet,
  setPowerOf,
  usualMeter,
  usualTolerances,
} from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import type { AllStepFigures } from '../../compute/tasks/stepFigures.ts'
import { useTask } from '../../compute/useTask.ts'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { ratingLines } from '../../model/ratings.ts'
import { chainOfDocument } from '../../model/answers.ts'
import { metersOf } from '../../model/places.ts'
import { sheetsOf } from '../../model/ownSheets.ts'
import { newRun, placeWords, runChannelOf, runStationOf, stateWords } from '../../model/runs.ts'
import { chainOnPaperQuery, stationQuery, sweepQuery } from '../../platform/api/queries.ts'
import { useUnits } from '../../platform/preferences.ts'
import { Page } from '../../shell/Page.tsx'
import { Trouble } from '../../shell/Trouble.tsx'
import { type Paper, paperOf, usePaper } from '../../ui/paper.ts'
import { PaperBar } from '../../ui/PaperBar.tsx'
import { Problem } from '../../ui/Problem.tsx'

const papers: readonly [Paper, Paper, Paper] = [
  paperOf('a5', 10),
  paperOf('a4', 10),
  paperOf('letter', 10),
]

/** A run sheet on paper: expected figures filled in, and room to write. */
export function SheetPage() {
  const { stationId, chainId, sheetId } = useParams() as {
    stationId: string
    chainId: string
    sheetId: string
  }
  const { data: station, error: stationError } = useQuery(stationQuery(stationId))
  const { data: state, error: chainError } = useQuery(chainOnPaperQuery(chainId))
  const sheet = station && sheetsOf(station).find(({ id }) => id === sheetId)
  const error = stationError ?? chainError
  if (error) return <Trouble error={error} />
  return (
    <Page title={sheet?.title ?? 'Run sheet'} stationId={stationId}>
      {station && !sheet && <p className="p-5">There is no sheet of that name.</p>}
      {sheet && station && state && <OnPaper station={station} state={state} sheet={sheet} />}
    </Page>
  )
}

function OnPaper({
  station,
  state,
  sheet,
}: {
  station: Station
  state: ChainState
  sheet: RunSheet
}) {
  const { power } = useUnits()
  const { document } = state
  const [search] = useSearchParams()
  const [paper, choosePaper] = usePaper(papers, papers[1])
  const channel =
    document.channels.find(({ id }) => id === search.get('channel')) ?? document.channels[0]!
  const sweepId = document.load.kind === 'antenna' ? document.load.sweepId : undefined
  const { data: sweep } = useQuery(sweepQuery(sweepId))
  const chain = useMemo(() => chainOfDocument(document, sweep), [document, sweep])
  const runStation = useMemo(
    () => chain && runStationOf(document, chain, station),
    [document, chain, station],
  )
  const { last: plan, problem: unplanned } = useTask(
    'runPlan',
    useMemo(
      () => runStation && { sheet, station: runStation, channelId: channel.id },
      [runStation, sheet, channel.id],
    ),
  )
  const steps = useMemo(
    () =>
      plan
        ? (newRun(sheet, plan.steps, { document, channel, by: '', power }).steps as ExpandedStep[])
        : [],
    [plan, sheet, document, channel, power],
  )
  const instrument = metersOf(station)[0]?.document
  const request = useMemo(
    () =>
      runStation && steps.length > 0
        ? {
            station: runStation,
            steps: steps.filter(({ kind }) => kind === 'read'),
            tolerances: document.tolerances ?? usualTolerances,
            meter: instrument ? calibratedMeter(instrument) : usualMeter,
          }
        : null,
    [runStation, steps, document.tolerances, instrument],
  )
  const { last, problem } = useTask('stepFigures', request)
  return (
    <div className="px-5 py-4">
      <PaperBar papers={papers} paper={paper} onPaper={choosePaper}>
        <Link className="link mr-2" to={chainAddress(station.id, state.id, 'run')}>
          back to the sheets
        </Link>
      </PaperBar>
      <Problem text={unplanned ?? problem} />
      <article
        aria-label={`${sheet.title}, as it prints`}
        className="printable always-day bg-sheet px-1 [overflow-wrap:anywhere] text-[9pt] leading-snug text-ink"
        style={{ maxWidth: `${paper.widthMm}mm` }}
      >
        <h2 className="text-[13pt] font-bold">{sheet.title}</h2>
        <p>
          {station.name}, {document.name}, {formatFrequency(channel.frequencyHz)}. Date ____________
          By ____________________
        </p>
        <ol className="mt-2">
          {steps.map((step, i) => (
            <PaperStep
              key={step.id}
              number={i + 1}
              step={step}
              figures={last?.[step.id]}
              watts={
                step.state
                  ? setPowerOf(
                      step.state,
                      runChannelOf(
                        document,
                        document.channels.find(({ id }) => id === step.channelId) ?? channel,
                      ),
                    )
                  : null
              }
              power={power}
              ratings={
                step.shows === 'ratings' && chain
                  ? ratingLines(document, chain, channel, power)
                  : []
              }
            />
          ))}
        </ol>
        <p className="mt-3">Remarks ______________________________________________________</p>
      </article>
    </div>
  )
}

function PaperStep({
  number,
  step,
  figures,
  ratings,
  watts,
  power,
}: {
  number: number
  step: ExpandedStep
  ratings: readonly string[]
  figures: AllStepFigures[string] | undefined
  watts: number | null
  power: PowerUnit
}) {
  const expected = typeof figures?.expected === 'object' ? figures.expected : null
  return (
    <li className="flex break-inside-avoid gap-2 border-b border-rule py-[3pt]">
      <span className="w-5 shrink-0 text-right">{number}</span>
      <span aria-hidden className="mt-px size-[9pt] shrink-0 border border-ink" />
      <span className="flex-1">
        <b>
          {step.kind === 'caution' && '▲ '}
          {step.title}
        </b>
        {step.seconds !== undefined && ` (${step.seconds} s)`}
        {step.text && <span className="block text-[8pt]">{step.text}</span>}
        {ratings.map((line) => (
          <span key={line} className="block text-[8pt]">
            {line}
          </span>
        ))}
        {watts !== null && (
          <span className="block text-[8pt]">
            {stateWords({ ...step, choices: undefined }, watts, power)}
            {step.kind === 'read' && `, ${placeWords[step.place ?? 'meter']}`}
            {step.mostSwr !== undefined && `; stop if SWR is over ${step.mostSwr}`}
          </span>
        )}
        {step.choices && (
          <span className="block text-[8pt]">
            {step.choices.map(({ label }) => `☐ ${label}`).join('   ')}
          </span>
        )}
        {step.kind === 'read' && (
          <span className="block">
            {step.figures !== 'swr' && (
              <>
                forward ________ W
                {expected &&
                  ` (${formatPower(expected.wattsRange.low, power)} to ${formatPower(expected.wattsRange.high, power)})`}
              </>
            )}
            {step.figures === 'both' && '   reflected ________ W'}
            {step.figures !== 'forward' && (
              <>
                {'   '}SWR ______{expected && ` (${formatSwr(expected.swr)})`}
              </>
            )}
          </span>
        )}
        {step.dials && <span className="block">dials ________ ________ ________</span>}
      </span>
    </li>
  )
}
