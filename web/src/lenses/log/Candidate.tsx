import type { ChainDocument } from '@saltline/contract'
import { decimals, type Explanation, type Reason, swapLog } from '@saltline/core'
import { toast } from 'sonner'
import { applyOf } from '../../model/applyCause.ts'
import { causeAdvice, causeTitle, evidenceWords } from '../../model/causeWords.ts'
import type { Edit } from '../../model/edits.ts'
import { shareText } from '../../model/share.ts'
import type { RoundCase } from './caseOf.ts'

/** Less than this is nothing to change a chain for. */
const LEAST_TO_APPLY = 0.1

/** What sweeps say of an explanation against its rival, in decibels of evidence. */
const sweepsDb = (own: Explanation, rival: Explanation | undefined): number =>
  own.sweepLog !== undefined && rival?.sweepLog !== undefined
    ? (10 / Math.LN10) * (own.sweepLog - rival.sweepLog)
    : 0

/** What swapped leads say of it, the same. */
const swapsDb = ({ kase }: RoundCase, own: Explanation, rival: Explanation | undefined): number => {
  const { swaps = [] } = kase
  return rival
    ? (10 / Math.LN10) * (swapLog(swaps, [own.cause]) - swapLog(swaps, [rival.cause]))
    : 0
}

/** Evidence below this is not worth naming, dB: a reading that is half as likely again. */
const LEAST_EVIDENCE_DB = 2
const REASONS = 3

/** Which readings speak for an explanation against its rival, and which against it, in decibels of evidence. */
function Reasons({
  reasons,
  bySweeps,
  bySwaps,
  made,
}: {
  reasons: readonly Reason[]
  bySweeps: number
  bySwaps: number
  made: RoundCase
}) {
  const strong = reasons.filter(({ db }) => Math.abs(db) >= LEAST_EVIDENCE_DB).slice(0, REASONS)
  const others = [
    { db: bySweeps, what: 'what the analyser saw' },
    { db: bySwaps, what: 'what swapping a lead did' },
  ].filter(({ db }) => Math.abs(db) >= LEAST_EVIDENCE_DB)
  if (strong.length === 0 && others.length === 0) return null
  return (
    <ul aria-label="Evidence" className="mt-0.5 text-xs">
      {others.map(({ db, what }) => (
        <li key={what}>
          <span className={db > 0 ? 'text-tide' : 'text-caution'}>{evidenceWords(db)}</span>: {what}
        </li>
      ))}
      {strong.map(({ reading, db }) => (
        <li key={reading}>
          <span className={db > 0 ? 'text-tide' : 'text-caution'}>{evidenceWords(db)}</span>:{' '}
          {made.names.readings[reading]}
        </li>
      ))}
    </ul>
  )
}

/** One explanation: how likely it is, what to do about it, what speaks for it. */
export function Candidate({
  explanation,
  reasons,
  rival,
  made,
  document,
  edit,
}: {
  explanation: Explanation
  reasons: readonly Reason[]
  /** The explanation that it is held against, where it is one of the first two. */
  rival: Explanation | undefined
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
      <Reasons
        {...{ reasons, made }}
        bySweeps={sweepsDb(explanation, rival)}
        bySwaps={swapsDb(made, explanation, rival)}
      />
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
