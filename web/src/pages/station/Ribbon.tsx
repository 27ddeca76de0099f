import type { StageDocument } from '@saltline/contract'
import type { Solution } from '@saltline/core'
import { layOut, legsOf, netBand } from '../../spine/geometry.ts'

const WIDTH = 400
const HEIGHT = 26

/** The spine in one line: net power from transmitter to antenna, what is lost on the way, and the set power. */
export function Ribbon({
  stages,
  solution,
}: {
  stages: readonly StageDocument[]
  solution: Solution
}) {
  const slots = layOut(stages, { available: WIDTH, transmitter: 12, least: 4, device: 10 })
  const net = netBand(stages, solution, slots)
  const legs = legsOf(solution, slots)
  const scale = (HEIGHT - 3) / Math.max(...legs.map(({ settingW }) => settingW))
  const stretch = WIDTH / slots.end
  const xy = (along: number, watts: number) =>
    `${(along * stretch).toFixed(1)},${(HEIGHT - watts * scale).toFixed(1)}`
  const edge = net.map(({ along, watts }) => xy(along, watts)).join('L')
  return (
    <svg
      aria-hidden
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      preserveAspectRatio="none"
      className="h-[26px] w-full"
    >
      {legs.map(({ start, output, end, netW, settingW }) => (
        <g key={start}>
          <path
            d={`M${xy(output, 0)}L${xy(output, netW)}L${xy(end, netW)}L${xy(end, 0)}Z`}
            fill="var(--heat-fill)"
          />
          <path
            d={`M${xy(start, settingW)}L${xy(end, settingW)}`}
            stroke="var(--ink)"
            strokeDasharray="5 4"
            vectorEffect="non-scaling-stroke"
          />
        </g>
      ))}
      <path d={`M${xy(0, 0)}L${edge}L${xy(slots.end, 0)}Z`} fill="var(--tide-fill)" />
      <path
        d={`M${edge}`}
        fill="none"
        stroke="var(--tide)"
        strokeWidth="2"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  )
}
