import type { RunStepDocument } from '@saltline/contract'
import {
  compareReading,
  type ExpectedReading,
  formatPower,
  formatSwr,
  swrRead,
} from '@saltline/core'
import { useEffect, useRef } from 'react'
import { comparedWords } from '../../model/comparedWords.ts'
import { rangeText, wattsText } from '../../model/wattsText.ts'
import { useUnits } from '../../platform/preferences.ts'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { ReadField } from '../../ui/quantities.tsx'
import type { Typed } from '../../model/stepEntry.ts'

/** Large fields for what the meter shows, beside what it should show. */
export function Figures({
  step,
  typed,
  onType,
  expected,
  why,
  corrected,
  meterName,
}: {
  step: RunStepDocument
  typed: Typed
  onType: (change: Partial<Typed>) => void
  expected: ExpectedReading | null
  /** Why nothing is expected. */
  why: string | null
  corrected: (watts: number) => number
  meterName: string
}) {
  const { power } = useUnits()
  const first = useRef<HTMLInputElement>(null)
  // What is read is what is typed next.
  useEffect(() => first.current?.focus({ preventScroll: true }), [])
  const watts = typed.forwardW === null ? null : corrected(typed.forwardW)
  const swr = swrRead({
    forwardW: watts,
    reflectedW: typed.reflectedW === null ? null : corrected(typed.reflectedW),
    swr: typed.swr,
  })
  return (
    <div className="grid max-w-3xl items-start gap-x-8 gap-y-3 sm:grid-cols-[minmax(0,17rem)_minmax(0,1fr)]">
      <div className="space-y-2 [&_input]:!min-h-14 [&_input]:!text-[27px] [&_input]:font-bold">
        {step.figures !== 'swr' && (
          <ReadField
            label={`Forward, as ${meterName} shows it`}
            inputRef={first}
            value={typed.forwardW}
            onChange={(forwardW) => onType({ forwardW })}
          />
        )}
        {step.figures === 'both' && (
          <ReadField
            label="Reflected"
            value={typed.reflectedW}
            onChange={(reflectedW) => onType({ reflectedW })}
          />
        )}
        {step.figures === 'swr' && (
          <OptionalField
            label="SWR"
            fieldRef={first}
            dimension="swr"
            min={1}
            max={1000}
            value={typed.swr}
            onChange={(value) => onType({ swr: value })}
          />
        )}
      </div>
      <div aria-live="polite" className="text-base">
        {why && <p className="text-muted">Nothing is expected here: {why}</p>}
        {expected && step.figures !== 'swr' && (
          <>
            <p className="text-muted">
              expected {wattsText(expected.watts, power, expected.wattsRange)}
            </p>
            <Gauge {...expected.wattsRange} middle={expected.watts} read={watts} />
            {watts !== null && (
              <p>{comparedWords[compareReading(watts, expected.watts, expected.wattsRange).is]}</p>
            )}
          </>
        )}
        {expected && step.figures !== 'forward' && (
          <p className="mt-1 text-muted">
            SWR expected {rangeText(expected.swr, expected.swrRange, formatSwr)}
            {expected.reflectedW > 0 &&
              step.figures === 'both' &&
              `, ${formatPower(expected.reflectedW, power)} reflected`}
            {swr !== null && <span className="text-ink">; read {formatSwr(swr)}</span>}
          </p>
        )}
      </div>
    </div>
  )
}

/** Where the reading lies against what is expected: the band is 5 to 95 %. */
function Gauge({
  low,
  high,
  middle,
  read,
}: {
  low: number
  high: number
  middle: number
  read: number | null
}) {
  const width = 264
  const most = Math.max(high + (high - low), middle * 1.3)
  const least = Math.max(0, low - (high - low))
  const x = (watts: number) =>
    Math.max(4, Math.min(width - 4, ((watts - least) / (most - least)) * width))
  return (
    <svg width={width} height={36} className="my-1 max-w-full" aria-hidden>
      <line x1={0} x2={width} y1={18} y2={18} stroke="var(--rule)" strokeWidth={2} />
      <rect
        x={x(low)}
        width={Math.max(2, x(high) - x(low))}
        y={7}
        height={22}
        fill="var(--tide-fill)"
      />
      <line x1={x(middle)} x2={x(middle)} y1={2} y2={34} stroke="var(--tide)" strokeWidth={2} />
      {read !== null && <circle cx={x(read)} cy={18} r={6} fill="var(--ink)" />}
    </svg>
  )
}
