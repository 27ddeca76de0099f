/** What is written on and around the lying band. Nothing here may touch anything else here. */
import type { StageDocument } from '@saltline/contract'
import { formatPower, type PowerUnit } from '@saltline/core'
import type { ChannelAnswer } from '../chain/answers.ts'
import { type Leg, planesWithRoom } from './geometry.ts'
import { type PlaneFigures, planeFigures } from './items.tsx'
import { AXIS, BAND, FIGURES_ROOM, RETURNED_GAP, TOP } from './lyingSizes.ts'

type Solved = ChannelAnswer & { ok: true }
type Unit = PowerUnit

/** What the radio keeps back, named in its hatched strip where the strip is tall enough. */
export function HeldBack({
  solved,
  y,
  left,
  unit,
}: {
  solved: Solved
  y: (w: number) => number
  left: number
  unit: Unit
}) {
  const { settingW, transmitterNetW } = solved.solution
  const height = y(transmitterNetW) - y(settingW)
  const held = settingW - transmitterNetW
  if (held < settingW * 0.02) return null
  const inside = height >= 20
  return (
    <span
      className={`absolute whitespace-nowrap text-xs font-bold text-returned ${inside ? 'bg-sheet/85 px-1 rounded' : ''}`}
      style={{ left, top: inside ? y(settingW) + Math.min(height / 2, 60) - 9 : TOP - 20 }}
    >
      {formatPower(held, unit)} never leaves the radio
    </span>
  )
}

/** Heat, named in the tint above the band where it is tall and wide enough to be read. */
export function HeatLabels({
  solved,
  slots,
  legs,
  y,
  topW,
  unit,
}: {
  solved: Solved
  slots: readonly { start: number; end: number }[]
  legs: readonly Leg[]
  y: (w: number) => number
  topW: number
  unit: Unit
}) {
  const { solution } = solved
  const worst = Math.max(...solution.stages.map((s) => s.lossW), 0)
  return solution.stages.map((stage, k) => {
    const { start, end } = slots[k]!
    const wide = end - start
    // The label stands over the middle; the band must already be low at its left end.
    const atLeft = solution.planes[k]!.netW - stage.lossW * Math.max(0, 0.5 - 55 / wide)
    const leg = legs.findLast((each) => each.stage < k)!
    const ceiling = y(Math.min(leg.netW, topW))
    const tall = y(atLeft) - ceiling
    if (stage.lossW < worst * 0.3 || wide < 110 || tall < 20) return null
    return (
      <span
        key={k}
        className="absolute -translate-x-1/2 whitespace-nowrap text-sm font-bold text-heat"
        style={{
          left: AXIS + start + wide / 2,
          top: ceiling + tall / 2 - 9,
        }}
      >
        {formatPower(stage.lossW, unit)} into heat
      </span>
    )
  })
}

export function PlaneLabels({
  stages,
  solved,
  positions,
  y,
  net,
  unit,
}: {
  stages: readonly StageDocument[]
  solved: Solved
  positions: readonly number[]
  y: (w: number) => number
  net: (along: number) => number
  unit: Unit
}) {
  const losses = solved.solution.stages.map((s) => s.lossW)
  // A range takes half as much room again as a figure.
  const room = solved.spread ? FIGURES_ROOM * 1.5 : FIGURES_ROOM
  const shown = planesWithRoom(positions, losses, room)
  return positions.map((along, k) => {
    if (!shown.has(k)) return null
    const { watts, others } = planeFigures(solved, k, unit, stages)
    // Below the band's edge as far as the text reaches, since the edge may step down under it.
    const edge = Math.max(y(net(along)), y(net(along + room - 14)))
    // Inside the band where it is thick enough, else above it.
    const inside = TOP + BAND - edge >= 46
    return (
      <span
        key={k}
        className="absolute whitespace-nowrap pl-2 leading-tight"
        style={{ left: AXIS + along, top: inside ? edge + 7 : edge - 40 }}
      >
        <b className="block text-sm">{watts}</b>
        {others.map((text) => (
          <span key={text} className="block text-xs text-ink/80">
            {text}
          </span>
        ))}
      </span>
    )
  })
}

/** The returning current in words at both ends; says so where it is drawn smaller than the band. */
export function Returning({
  watts0,
  wattsN,
  shrunk,
  endX,
  unit,
}: {
  watts0: number
  /** Null where nothing that arrives there is a wave. */
  wattsN: number | null
  shrunk: number
  endX: number
  unit: Unit
}) {
  const top = TOP + BAND + RETURNED_GAP - 3
  return (
    <>
      <span
        className="absolute text-xs whitespace-nowrap text-returned"
        style={{ left: AXIS + 8, top }}
      >
        {formatPower(watts0, unit)} back here
      </span>
      <span
        className="absolute whitespace-nowrap pl-2 text-xs text-returned"
        style={{ left: endX, top }}
      >
        {wattsN !== null && `◂ ${formatPower(wattsN, unit)} back`}
        {shrunk > 1 && <span className="block">drawn at 1 : {Math.ceil(shrunk)}</span>}
      </span>
    </>
  )
}

export function AtAntenna({
  watts,
  others,
  left,
  top,
}: PlaneFigures & {
  left: number
  top: number
}) {
  const [number, unit] = watts.split('\u00a0')
  return (
    <div
      className="absolute pl-3.5 leading-none"
      style={{ left, top: Math.min(Math.max(top - 14, TOP - 6), TOP + BAND - 58) }}
    >
      <span
        className={`font-bold whitespace-nowrap ${number!.length > 6 ? 'text-lg' : 'text-2xl'}`}
      >
        {number} <span className="text-base">{unit}</span>
      </span>
      {others.map((text) => (
        <span key={text} className="mt-1 block whitespace-nowrap text-sm text-muted">
          {text}
        </span>
      ))}
    </div>
  )
}
