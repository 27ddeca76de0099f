import type { ChainDocument, Reading, Station } from '@saltline/contract'
import {
  type Cause,
  type Chain,
  decimals,
  type Explanation,
  formatPercent,
  lineConstants,
  matchedLossDb,
  type NextReading,
  padLossDb,
} from '@saltline/core'
import { causeAdvice, causeTitle, siteWords } from '../../model/causeWords.ts'
import { useMemo } from 'react'
import { toast } from 'sonner'
import { type Edit, changeStage } from '../../model/edits.ts'
import { ProgressBar } from '../../compute/ProgressBar.tsx'
import { useDiagnosis } from '../../compute/useDiagnosis.ts'
import { shareText } from '../../model/share.ts'
import { caseOf, type RoundCase } from './caseOf.ts'
import { PriorsLink } from './Priors.tsx'

/** No cable ages by more: a loss beyond it is a joint. */
const MOST_AGED = 20
const SHOWN = 4
/** Less than this is as good as ruled out. */
const LEAST = 0.02
/** Less than this is nothing to change a chain for. */
const LEAST_TO_APPLY = 0.1

/** Where did the watts go? The explanations of a round's readings, and the reading to take next. */
export function WhereWent({
  station,
  document,
  chain,
  readings,
  edit,
  onNext,
}: {
  station: Station
  document: ChainDocument
  chain: Chain
  readings: readonly Reading[]
  edit: (edit: Edit) => void
  onNext: (plane: number, frequencyHz: number) => void
}) {
  const made = useMemo(
    () => caseOf(station, document, chain, readings),
    [station, document, chain, readings],
  )
  const {
    result: done,
    problem,
    running,
    progress,
    stop,
  } = useDiagnosis(made?.kase ?? null, made?.places.length ?? 0)
  if (!made) return null
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
            next={done.next[0]}
            made={made}
            onNext={onNext}
          />
          <ol className="mt-2 space-y-2">
            {done.diagnosis.explanations
              .filter(({ probability }, i) => i === 0 || (i < SHOWN && probability > LEAST))
              .map((explanation, i) => (
                <Candidate
                  key={i}
                  explanation={explanation}
                  made={made}
                  document={document}
                  edit={edit}
                />
              ))}
          </ol>
          <Next next={done.next} made={made} onNext={onNext} />
          <p className="mt-3 text-xs text-muted">
            Each cause alone, compared with all {readings.length} readings and the uncertainty of
            chain and meters. The first one is where to look, not a proof.
          </p>
        </>
      )}
      <p className="mt-1 text-xs text-muted">
        <PriorsLink document={document} edit={edit} />
      </p>
    </section>
  )
}

/** Where the second is at least so likely as a share of the first, the readings do not tell them apart. */
const NOT_APART = 0.4

function Summary({
  explanations,
  explained,
  next,
  made,
  onNext,
}: {
  explanations: readonly Explanation[]
  explained: boolean
  next: NextReading | undefined
  made: RoundCase
  onNext: (plane: number, frequencyHz: number) => void
}) {
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
          {next && next.settles > 0.05 ? (
            <>
              Read{' '}
              <button
                type="button"
                className="link"
                onClick={() => onNext(next.plane, made.pointsHz[next.point]!)}
              >
                {siteWords(next, made.places, made.pointsHz)}
              </button>
              {next.instrument === null ? ' with another meter' : ''} next.
            </>
          ) : (
            'No further reading on this chain would tell much more: look at both.'
          )}
        </span>
      )}
      {!explained && (
        <span className="mt-1 block text-sm text-caution">
          ▲ No single cause explains all readings: there may be two, or a reading is wrong.
        </span>
      )}
    </div>
  )
}

function Candidate({
  explanation,
  made,
  document,
  edit,
}: {
  explanation: Explanation
  made: RoundCase
  document: ChainDocument
  edit: (edit: Edit) => void
}) {
  const { cause, probability, misfit } = explanation
  const apply = probability > LEAST_TO_APPLY ? applyOf(cause, document, made.pointsHz[0]!) : null
  return (
    <li>
      <div className="flex items-baseline justify-between gap-3">
        <span>{causeTitle(cause, made.names)}</span>
        <b className="whitespace-nowrap">{shareText(probability)}</b>
      </div>
      <div className="my-1 h-1.5 bg-rule" aria-hidden>
        <div className="h-full bg-tide" style={{ width: `${probability * 100}%` }} />
      </div>
      <p className="text-xs text-muted">
        {rangeWords(explanation)}The readings are {decimals(misfit, 1)}&nbsp;σ from this prediction
        {misfit < 1.5 && ': it fits'}. {causeAdvice(cause)}{' '}
        {apply && (
          <button
            type="button"
            className="link"
            onClick={() => {
              edit(apply.edit)
              toast(apply.done)
            }}
          >
            {apply.label}
          </button>
        )}
      </p>
    </li>
  )
}

function rangeWords({ cause, range }: Explanation): string {
  if (!range || range.low === range.high) return ''
  const unit = cause.kind === 'aged' ? ' times' : cause.kind === 'meter' ? ' times' : '\u00a0dB'
  const [low, high] = [range.low, range.high]
    .map((v) => decimals(Math.abs(v), 1))
    .sort((a, b) => Number(a) - Number(b))
  return low === high ? '' : `Between ${low} and ${high}${unit}. `
}

/** What a cause changes in the chain, so that the prediction speaks of the station as it is. */
function applyOf(
  cause: Cause,
  document: ChainDocument,
  hz: number,
): { label: string; done: string; edit: Edit } | null {
  const index =
    cause.kind === 'aged'
      ? cause.stage
      : cause.kind === 'loss' && cause.from === cause.to
        ? cause.to
        : -1
  const stage = document.stages[index]
  const label = 'Apply to the chain'
  const reason = 'found from readings'
  if (stage?.kind === 'line') {
    const now = stage.ageing?.factor ?? 1
    const lossDb = matchedLossDb(lineConstants(stage.cable, hz), stage.lengthM)
    const to =
      cause.kind === 'loss' ? now + cause.db / lossDb : now * (cause as { factor: number }).factor
    const factor = Number(to.toFixed(2))
    if (factor > MOST_AGED) return null
    return {
      label,
      done: `${stage.name} is now aged by ${factor}`,
      edit: changeStage(stage.id, (own) =>
        own.kind === 'line' ? { ...own, ageing: { factor, reason } } : own,
      ),
    }
  }
  if (stage?.kind === 'pad' && cause.kind === 'loss') {
    const lossDb = Number((padLossDb(stage, hz) + cause.db).toFixed(2))
    return {
      label,
      done: `${stage.name} now loses ${lossDb}\u00a0dB`,
      edit: changeStage(stage.id, (own) =>
        own.kind === 'pad' ? { ...own, lossDb, points: undefined, atHz: undefined } : own,
      ),
    }
  }
  return null
}

function Next({
  next,
  made,
  onNext,
}: {
  next: readonly NextReading[]
  made: RoundCase
  onNext: (plane: number, frequencyHz: number) => void
}) {
  const best = next.filter(({ settles }) => settles > 0.05)
  if (best.length === 0) return null
  return (
    <div className="mt-3 border-t border-rule pt-2">
      <h3 className="text-sm text-muted">The next reading to take</h3>
      <ul className="mt-1 space-y-1 text-sm">
        {best.map(({ point, plane, instrument, settles, between }) => (
          <li key={`${point} ${plane} ${instrument}`}>
            <button
              type="button"
              className="link text-left"
              onClick={() => onNext(plane, made.pointsHz[point]!)}
            >
              {siteWords({ point, plane }, made.places, made.pointsHz)}
              {instrument === null ? ', with another meter' : ''}
            </button>
            <span className="block text-xs text-muted">
              would separate the leading causes in {formatPercent(settles)} of cases, best “
              {causeTitle(between[0], made.names)}” from “{causeTitle(between[1], made.names)}”
            </span>
          </li>
        ))}
      </ul>
    </div>
  )
}
