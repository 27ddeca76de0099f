import {
  type ChainDocument,
  dayText,
  type Reading,
  type Station,
  type Suspect,
} from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import {
  type CausePair,
  type Chain,
  decimals,
  type Explanation,
  type NextReading,
  type NextSwap,
  type TwoThings,
} from '@saltline/core'
import { causeTitle, howWords, siteWords } from '../../model/causeWords.ts'
import { useMemo } from 'react'
import type { Edit } from '../../model/edits.ts'
import { type NextStep, stepOf } from '../../model/nextStep.ts'
import { ProgressBar } from '../../compute/ProgressBar.tsx'
import { useDiagnosis, useNextSweep } from '../../compute/useDiagnosis.ts'
import { shareText } from '../../model/share.ts'
import { caseOf, type RoundCase, type Swaps } from './caseOf.ts'
import {
  COSTS,
  type CostName,
  costNames,
  LEAST_SETTLED,
  SETTLED,
} from '../../model/readingCosts.ts'
import { usePreferences } from '../../platform/preferences.ts'
import { suspectsQuery } from '../../platform/api/thingQueries.ts'
import { useSweepsOf } from './useSweepsOf.ts'
import { useKept } from '../../platform/useKept.ts'
import { Candidate } from './Candidate.tsx'
import { NextReadings } from './NextReadings.tsx'
import { PriorsLink } from './Priors.tsx'

const NO_SUSPECTS: readonly Suspect[] = []
const NO_SWAPS: Swaps = {}
const SHOWN = 4

/** Less than this is as good as ruled out. */
const LEAST = 0.02
/** Where did the watts go? The explanations of a round's readings, and the reading to take next. */
export function WhereWent({
  station,
  chainId,
  roundId,
  document,
  chain,
  readings,
  edit,
  onNext,
}: {
  station: Station
  chainId: string
  roundId: string
  document: ChainDocument
  chain: Chain
  readings: readonly Reading[]
  edit: (edit: Edit) => void
  onNext: (step: NextStep) => void
}) {
  const { data: suspects = NO_SUSPECTS } = useQuery({
    ...suspectsQuery(chainId),
    enabled: document.stages.some(({ thingId }) => thingId !== undefined),
  })
  const sweeps = useSweepsOf(chainId, readings)
  const swaps = useKept<Swaps>(`swaps.${roundId}`, NO_SWAPS)
  const made = useMemo(
    () => caseOf(station, document, chain, readings, suspects, sweeps, swaps.value),
    [station, document, chain, readings, suspects, sweeps, swaps.value],
  )
  const said = useKept<Record<string, CostName>>(`costs.${station.id}.${document.name}`, {})
  const names = useMemo(() => costNames(made?.places ?? [], said.value), [made, said.value])
  const costs = useMemo(() => names.map((name) => COSTS[name].cost), [names])
  const task = useDiagnosis(made?.kase ?? null, costs)
  const { soFar: done, result, problem, running, progress, stop } = task
  const sweep = useNextSweep(made?.kase ?? null, result?.diagnosis.explanations, costs)
  if (!made) return null
  const open = done !== null && done.diagnosis.explanations[0]!.probability < SETTLED
  const swap = open && done.swap && done.swap.settles > LEAST_SETTLED ? done.swap : null
  return (
    <section aria-label="Where did the watts go?">
      <h2 className="mb-1 text-base font-bold">Where did the watts go?</h2>
      {running && (
        <p className="flex items-center gap-2 text-sm text-muted">
          <ProgressBar className="h-1.5 flex-1 accent-tide" of={progress} />
          <button type="button" className="quiet !min-h-6 text-sm" onClick={stop}>
            stop
          </button>
        </p>
      )}
      {problem && <p className="text-sm text-caution">▲ {problem}</p>}
      {done && (
        <>
          <Summary
            explanations={done.diagnosis.explanations}
            explained={done.diagnosis.explained}
            refined={result !== null}
            next={done.next[0]}
            swap={swap}
            two={done.two}
            made={made}
            onNext={onNext}
          />
          {suspects.map(({ stageId, mark, chain: other, at, excessDb }) => (
            <p key={stageId} className="mt-1 text-sm">
              {mark} lost {decimals(excessDb, 1)}&nbsp;dB more than expected in {other} on{' '}
              {dayText(new Date(at).toISOString())}: it is suspect here too.
            </p>
          ))}
          <ol className="mt-2 space-y-2">
            {done.diagnosis.explanations
              .filter(({ probability }, i) => i === 0 || (i < SHOWN && probability > LEAST))
              .map((explanation, i) => (
                <Candidate
                  key={i}
                  explanation={explanation}
                  reasons={done.reasons[i] ?? []}
                  rival={done.diagnosis.explanations[1 - i]}
                  made={made}
                  document={document}
                  edit={edit}
                />
              ))}
          </ol>
          <NextReadings
            next={open ? done.next : []}
            swap={swap}
            sweep={sweep}
            lineLens={`/station/${station.id}/chain/${chainId}/line`}
            costs={names}
            onCost={(plane, cost) => said.put({ [made.places[plane]!]: cost })}
            onSwap={(stage, came) => swaps.put({ [document.stages[stage]!.id]: came })}
            {...{ made, onNext }}
          />
          <p className="mt-3 text-xs text-muted">
            Each cause alone, compared with{' '}
            {readings.length === 1 ? 'the reading' : `all ${readings.length} readings`}
            {sweepsText(made.kase.sweeps?.length ?? 0)} and the uncertainty of chain and meters. The
            first one is where to look, not a proof. Decibels of evidence: 10&nbsp;dB is a reading
            ten times likelier with this cause than with its rival.
          </p>
        </>
      )}
      <p className="mt-1 text-xs text-muted">
        <PriorsLink document={document} edit={edit} />
      </p>
    </section>
  )
}

const sweepsText = (count: number) =>
  count === 0
    ? ''
    : count === 1
      ? ', the sweep of this session'
      : `, ${count} sweeps of this session`

/** Where the second is at least so likely as a share of the first, the readings do not tell them apart. */
const NOT_APART = 0.4

function Summary({
  explanations,
  explained,
  refined,
  next,
  swap,
  two,
  made,
  onNext,
}: {
  explanations: readonly Explanation[]
  explained: boolean
  /** Whether the reading to take next, and two things at once, are known as well. */
  refined: boolean
  next: NextReading | undefined
  swap: NextSwap | null
  two: TwoThings | null
  made: RoundCase
  onNext: (step: NextStep) => void
}) {
  const { power } = usePreferences()
  const [first, second] = explanations
  const { probability } = first!
  const likely =
    probability > 0.8 ? 'Very likely' : probability > 0.5 ? 'Likely' : 'Undecided; first to check'
  const open = second !== undefined && second.probability >= NOT_APART * probability
  return (
    <div role="status" className="text-[16px] leading-snug">
      {likely} ({shareText(probability)}): <b>{causeTitle(first!.cause, made.names)}</b>.
      {open && (
        <span className="mt-1 block text-sm">
          These readings do not tell it from “{causeTitle(second.cause, made.names)}” (
          {shareText(second.probability)}).{' '}
          {next && next.settles > LEAST_SETTLED ? (
            <>
              Read{' '}
              <button type="button" className="link" onClick={() => onNext(stepOf(next, made))}>
                {siteWords(next, made.places, made.pointsHz)}
              </button>
              {howWords(next, made, power)} next.
            </>
          ) : swap ? (
            `No further reading would tell them apart; swapping ${made.names.stages[swap.stage]} would.`
          ) : !refined ? (
            'What to read next is being computed.'
          ) : (
            'No further reading where you can read today would tell them apart: look at both.'
          )}
        </span>
      )}
      {two && (
        <span className="mt-1 block text-sm">
          Two things explain the readings better than one ({shareText(two.probability)}):{' '}
          {pairText(two.pairs[0]!, made)}
          {two.pairs[1] && `; or ${pairText(two.pairs[1], made)}`}.
        </span>
      )}
      {!explained && refined && (
        <span className="mt-1 block text-sm text-caution">
          ▲ No single cause explains all readings: there may be {two ? 'two' : 'more'}, or a reading
          is wrong.
        </span>
      )}
    </div>
  )
}

const pairText = ({ causes }: CausePair, { names }: RoundCase): string =>
  causes.map((cause) => `“${causeTitle(cause, names)}”`).join(' and ')
