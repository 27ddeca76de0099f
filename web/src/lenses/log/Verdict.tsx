import { useUnits } from '../../platform/preferences.ts'
import { comparedWords } from '../../model/comparedWords.ts'
import {
  compareReading,
  decimals,
  type ExpectedReading,
  formatPower,
  formatSwr,
} from '@saltline/core'
import { rangeText, wattsText } from '../../model/wattsText.ts'
import { Against } from './Against.tsx'

/** Under a figure that is being typed: what was expected here, and whether it fits. */
export function WattsVerdict({
  read,
  expected,
}: {
  read: number | null
  expected: ExpectedReading
}) {
  const { watts, wattsRange } = expected
  const { power } = useUnits()
  if (read === null)
    return (
      <span>
        expected {formatPower(watts, power)}, {wattsText(watts, power, wattsRange)}
      </span>
    )
  const { db, is } = compareReading(read, watts, wattsRange)
  return (
    <span className={is === 'inside' ? '' : 'text-danger'}>
      <Against value={read} {...wattsRange} expected={watts} logarithmic /> {signed(db)}:{' '}
      {is === 'inside' ? '' : '▲ '}
      {comparedWords[is]}
    </span>
  )
}

const signed = (db: number): string =>
  Number.isFinite(db) ? `${db < 0 ? '−' : '+'}${decimals(Math.abs(db), 1)}\u00a0dB` : 'nothing'

export function SwrVerdict({ read, expected }: { read: number | null; expected: ExpectedReading }) {
  const { swr, swrRange } = expected
  const { power } = useUnits()
  if (read === null)
    return (
      <span>
        expected {formatPower(expected.reflectedW, power)}: SWR {formatSwr(swr)},{' '}
        {rangeText(swr, swrRange, formatSwr)}
      </span>
    )
  const inside = read >= swrRange.low && read <= swrRange.high
  return (
    <span className={inside ? '' : 'text-danger'}>
      <Against value={read} {...swrRange} expected={swr} /> SWR {formatSwr(read)}:{' '}
      {inside ? 'inside the uncertainty' : `▲ ${formatSwr(swr)} was expected`}
    </span>
  )
}
