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
import {
  causeTitle,
  endWords,
  howWords,
  intoWords,
  siteWords,
  swapWords,
} from '../../model/causeWords.ts'
import { stepOf, type NextStep } from '../../model/nextStep.ts'
import { COSTS, type CostName, LEAST_SETTLED } from '../../model/readingCosts.ts'
import { usePreferences } from '../../platform/preferences.ts'
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
  onSwap,
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
  /** A lead was swapped; undefined takes back what was said of it. */
  onSwap: (stage: number, came: 'right' | 'same' | undefined) => void
  onNext: (step: NextStep) => void
}) {
  const { power } = usePreferences()
  const { swaps = [] } = made.kase
  const best = next.filter(({ settles }) => settles > LEAST_SETTLED)
  return (
    <div className="mt-3 border-t border-rule pt-2">
      {(best.length > 0 || swap || sweep) && (
        <>
          <h3 className="text-sm text-muted">The next reading to take</h3>
          <ul className="mt-1 space-y-1 text-sm">
            {best.map((own) => (
              <li key={`${own.point} ${own.plane} ${own.instrument}`}>
                <button
                  type="button"
                  className="link text-left"
                  onClick={() => onNext(stepOf(own, made))}
                >
                  {siteWords(own, made.places, made.pointsHz)}
                </button>
                {howWords(own, made, power)}
                <span className="block text-xs text-muted">
                  reduces the uncertainty about the cause by about {formatPercent(own.settles)}
                  {own.then &&
                    `, together with one ${siteWords(own.then, made.places, made.pointsHz)}${intoWords(own.then, made)} by ${formatPercent(own.then.settles)}`}
                  ; expected {formatPower(own.expectsW[0], power)} with “
                  {causeTitle(own.between[0], made.names)}”, {formatPower(own.expectsW[1], power)}{' '}
                  with “{causeTitle(own.between[1], made.names)}”
                </span>
              </li>
            ))}
            {swap && (
              <li>
                swap {made.names.stages[swap.stage]} for a lead that is known to be good, then read{' '}
                <button
                  type="button"
                  className="link text-left"
                  onClick={() => onNext(stepOf({ ...swap.site, share: 1 }, made))}
                >
                  {siteWords(swap.site, made.places, made.pointsHz)}
                </button>{' '}
                again{howWords({ share: 1, ...swap.site }, made, power)}
                <span className="block text-xs text-muted">{swapWords(swap)}</span>
                <span className="mt-0.5 flex flex-wrap gap-x-3">
                  <button
                    type="button"
                    className="link"
                    onClick={() => onSwap(swap.stage, 'right')}
                  >
                    It came right
                  </button>
                  <button type="button" className="link" onClick={() => onSwap(swap.stage, 'same')}>
                    It made no difference
                  </button>
                </span>
              </li>
            )}
            {sweep && (
              <li>
                <Link
                  className="link"
                  to={`${lineLens}${sweep.farEnd === 'antenna' ? '' : `?end=${sweep.farEnd}`}`}
                >
                  a sweep: {made.places[sweep.plane]}, {formatFrequency(sweep.lowHz)} to{' '}
                  {formatFrequency(sweep.highHz)}
                </Link>
                {endWords(sweep.farEnd)}
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
      {swaps.map(({ stage, cameRight }) => (
        <p key={stage} className="mt-2 text-sm">
          {made.names.stages[stage]} was swapped:{' '}
          {cameRight
            ? 'the reading came right. What you read from now on is of the mended chain, and belongs to a new session.'
            : 'it made no difference.'}{' '}
          <button type="button" className="link" onClick={() => onSwap(stage, undefined)}>
            Take this back
          </button>
        </p>
      ))}
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
