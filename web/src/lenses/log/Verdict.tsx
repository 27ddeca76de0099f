import {
  compareReading,
  decimals,
  type ExpectedReading,
  formatPower,
  formatSwr,
} from '@saltline/core'
import { rangeText, wattsText } from '../../parts/wattsText.ts'
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
  if (read === null)
    return (
      <span>
        expected {formatPower(watts)}, {wattsText(watts, 'W', wattsRange)}
      </span>
    )
  const inside = read >= wattsRange.low && read <= wattsRange.high
  const { db, words } = compareReading(read, watts, inside ? Infinity : 0)
  return (
    <span className={inside ? '' : 'text-danger'}>
      <Against value={read} {...wattsRange} expected={watts} logarithmic /> {signed(db)}:{' '}
      {inside ? '' : '▲ '}
      {words}
    </span>
  )
}

const signed = (db: number): string =>
  Number.isFinite(db) ? `${db < 0 ? '−' : '+'}${decimals(Math.abs(db), 1)}\u00a0dB` : 'nothing'

export function SwrVerdict({ read, expected }: { read: number | null; expected: ExpectedReading }) {
  const { swr, swrRange } = expected
  if (read === null)
    return (
      <span>
        expected {formatPower(expected.reflectedW)}: SWR {formatSwr(swr)},{' '}
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
