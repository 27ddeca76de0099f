import { formatPower, type Solution } from '@saltline/core'
import { type LiveAround, useLiveAgainst } from '../compute/useLiveAgainst.ts'
import { type LiveNow, useLive } from '../platform/api/live.ts'
import { useUnits } from '../platform/preferences.ts'

interface Props {
  around: LiveAround
  solution: Solution
  /** Where a plane’s watts stand in the drawing, px. */
  at: (plane: number, watts: number) => { left: number; top: number }
}

/** What live meters show, on the spine at their planes: a ring where it is as expected, ▲ where it is not. */
export function LiveMarks({ around, ...props }: Props) {
  const meters = useLive(around.chainId)
  return meters
    .filter(({ latest, lost }) => !lost && latest.plane <= around.document.stages.length)
    .map((meter) => <Mark key={meter.latest.plane} {...props} around={around} meter={meter} />)
}

function Mark({ around, solution, at, meter }: Props & { meter: LiveNow }) {
  const { power } = useUnits()
  const { latest } = meter
  const { expected, outside } = useLiveAgainst(around, meter)
  if (!expected) return null
  // The band is net power: what the meter shows moves it as it moves forward power.
  const net = solution.planes[latest.plane]!.netW * (latest.forwardW / expected.watts)
  return (
    <span
      className={`pointer-events-none absolute z-10 flex -translate-x-1/2 -translate-y-1/2 items-center ${outside ? 'text-danger' : 'text-tide'}`}
      style={at(latest.plane, net)}
    >
      <svg width="16" height="16" viewBox="-8 -8 16 16" aria-hidden className="shrink-0">
        <circle r="7.500" fill="var(--sheet)" />
        {outside ? (
          <path d="M0 -6 6 5H-6z" fill="currentColor" />
        ) : (
          <circle r="4.500" fill="none" stroke="currentColor" strokeWidth="2.500" />
        )}
      </svg>
      <span className="sr-only">
        live {formatPower(latest.forwardW, power)}, {outside ? 'outside' : 'as expected'}
      </span>
    </span>
  )
}
