import {
  decimals,
  formatFrequency,
  formatPercent,
  formatPower,
  type NextReading,
  type NextSwap,
  type NextSweep,
} from '@saltline/core'
import { Link } from 'react-router'
import { causeTitle, siteWords, swapWords } from '../../model/causeWords.ts'
import { COSTS, type CostName, LEAST_SETTLED } from '../../model/readingCosts.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import type { RoundCase } from './caseOf.ts'

const costChoices = Object.entries(COSTS).map(([value, { label }]) => ({
  value: value as CostName,
  label,
}))

/** The readings that would tell the leading causes apart best, what each cause expects there, and what a place costs today. */
export function NextReadings({
  next,
  swap,
  sweep,
  lineLens,
  made,
  costs,
  onCost,
  onNext,
}: {
  next: readonly NextReading[]
  /** A lead whose swap would tell much. */
  swap: NextSwap | null
  /** A sweep that would tell the leading causes apart, and where it is brought. */
  sweep: NextSweep | null
  lineLens: string
  made: RoundCase
  /** Of every plane. */
  costs: readonly CostName[]
  onCost: (plane: number, cost: CostName) => void
  onNext: (plane: number, frequencyHz: number) => void
}) {
  const best = next.filter(({ settles }) => settles > LEAST_SETTLED)
  return (
    <div className="mt-3 border-t border-rule pt-2">
      {(best.length > 0 || swap || sweep) && (
        <>
          <h3 className="text-sm text-muted">The next reading to take</h3>
          <ul className="mt-1 space-y-1 text-sm">
            {best.map(({ point, plane, instrument, settles, between, expectsW }) => (
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
                  reduces the uncertainty about the cause by about {formatPercent(settles)};
                  expected {formatPower(expectsW[0])} with “{causeTitle(between[0], made.names)}”,{' '}
                  {formatPower(expectsW[1])} with “{causeTitle(between[1], made.names)}”
                </span>
              </li>
            ))}
            {swap && (
              <li>
                swap {made.names.stages[swap.stage]} for a lead that is known to be good, then read{' '}
                <button
                  type="button"
                  className="link text-left"
                  onClick={() => onNext(swap.site.plane, made.pointsHz[swap.site.point]!)}
                >
                  {siteWords(swap.site, made.places, made.pointsHz)}
                </button>{' '}
                again
                <span className="block text-xs text-muted">{swapWords(swap)}</span>
              </li>
            )}
            {sweep && (
              <li>
                <Link className="link" to={lineLens}>
                  a sweep {made.places[sweep.plane]}, {formatFrequency(sweep.lowHz)} to{' '}
                  {formatFrequency(sweep.highHz)}
                </Link>
                <span className="block text-xs text-muted">
                  with an analyser, the transmitter off: {decimals(sweep.db, 0)}&nbsp;dB of evidence
                  between “{causeTitle(sweep.between[0], made.names)}” and “
                  {causeTitle(sweep.between[1], made.names)}”
                </span>
              </li>
            )}
          </ul>
        </>
      )}
      <details className="mt-2">
        <summary className="cursor-pointer text-sm text-muted">Where can you read today?</summary>
        <div className="mt-1 grid gap-x-3 gap-y-1 sm:grid-cols-2">
          {made.places.map((place, plane) => (
            <ChoiceField
              key={place}
              label={place}
              value={costs[plane]!}
              options={costChoices}
              onChange={(cost) => onCost(plane, cost)}
            />
          ))}
        </div>
      </details>
    </div>
  )
}
