/** What is written on and around the lying band. Nothing here may touch anything else here. */
import type { StageDocument } from '@saltline/contract'
import type { PowerUnit } from '@saltline/core'
import type { ChannelAnswer } from '../model/answers.ts'
import { wattsText } from '../model/wattsText.ts'
import type { Leg } from './geometry.ts'
import { type PlaneFigures, planeFigures } from './items.tsx'
import { type Box, placeLabels, type Surface } from './labels.ts'
import { AXIS, BAND, RETURNED_GAP, TOP } from './lyingSizes.ts'

type Solved = ChannelAnswer & { ok: true }
type Unit = PowerUnit

/** What the radio keeps back, named in its hatched strip where the strip is tall enough. */
export function heldBack({
  solved,
  y,
  left,
}: {
  solved: Solved
  y: (w: number) => number
  left: number
}) {
  const { settingW, transmitterNetW } = solved.solution
  const net = solved.spread?.transmitterNetW
  const height = y(transmitterNetW) - y(settingW)
  const held = settingW - transmitterNetW
  if (held < settingW * 0.02) return null
  const inside = height >= 20
  return (
    <span
      className={`absolute whitespace-nowrap text-xs font-bold text-returned ${inside ? 'bg-sheet/85 px-1 rounded' : ''}`}
      style={{ left, top: inside ? y(settingW) + Math.min(height / 2, 60) - 9 : TOP - 20 }}
    >
      {wattsText(held, 'W', net && { low: settingW - net.high, high: settingW - net.low })} not
      delivered
    </span>
  )
}

interface Written extends Box {
  key: number
  text: string
}

/** Roughly, px: the face is a little wider in bold. */
const LETTER = 7
const BOLD = 7.8

/** Losses, named in the tint above the band where it is tall and wide enough to be read. */
export function heatLabels(
  { solution, spread }: Solved,
  slots: readonly { start: number; end: number }[],
  legs: readonly Leg[],
  y: (w: number) => number,
  topW: number,
): Written[] {
  const worst = Math.max(...solution.stages.map((s) => s.lossW), 0)
  return solution.stages.flatMap((stage, k) => {
    const { start, end } = slots[k]!
    const wide = end - start
    const text = `${wattsText(stage.lossW, 'W', spread?.stages[k]!.lossW)} lost as heat`
    const width = text.length * BOLD
    // The label stands over the middle; the band must already be low at its left end.
    const atLeft = solution.planes[k]!.netW - stage.lossW * Math.max(0, 0.5 - width / 2 / wide)
    const leg = legs.findLast((each) => each.stage < k)!
    const ceiling = y(Math.min(leg.netW, topW))
    const tall = y(atLeft) - ceiling
    if (stage.lossW < worst * 0.3 || wide < width || tall < 20) return []
    const left = AXIS + start + (wide - width) / 2
    return [{ key: k, text, left, top: ceiling + tall / 2 - 9, width, height: 18 }]
  })
}

export const writtenLabels = ({ labels }: { labels: readonly Written[] }) =>
  labels.map(({ key, text, left, top, width }) => (
    <span
      key={key}
      className="absolute text-center text-sm font-bold whitespace-nowrap text-heat"
      style={{ left, top, width }}
    >
      {text}
    </span>
  ))

/** The figures of the planes, those behind the greatest losses first, as far as there is room. */
export function PlaneLabels({
  stages,
  solved,
  positions,
  surface,
  taken,
  lines,
  unit,
}: {
  stages: readonly StageDocument[]
  solved: Solved
  positions: readonly number[]
  surface: Surface
  taken: readonly Box[]
  /** Where dashed lines lie, px: a figure that one would strike through stands on the ground of the sheet. */
  lines: readonly number[]
  unit: Unit
}) {
  const losses = solved.solution.stages.map((s) => s.lossW)
  const last = positions.length - 1
  // The last plane is told at the antenna.
  const order = positions
    .map((_, k) => k)
    .slice(0, last)
    .sort((a, b) => (b === 0 ? 1 : a === 0 ? -1 : losses[b - 1]! - losses[a - 1]!))
  const figures = order.map((k) => planeFigures(solved, k, unit, stages))
  const boxes = placeLabels(
    order.map((k, i) => {
      const { watts, others } = figures[i]!
      const letters = Math.max(...others.map((text) => text.length))
      return {
        along: AXIS + positions[k]!,
        width: Math.max(watts.length * BOLD, letters * LETTER),
        height: 17 + 15 * others.length,
      }
    }),
    surface,
    taken,
  )
  return order.map((k, i) => {
    const box = boxes[i]
    if (!box) return null
    const { watts, others } = figures[i]!
    const struck = lines.some((y) => y > box.top && y < box.top + box.height)
    return (
      <span
        key={k}
        className={`absolute leading-tight whitespace-nowrap ${struck ? 'bg-sheet' : ''} ${box.left < AXIS + positions[k]! ? 'text-right' : ''}`}
        style={{ left: box.left, top: box.top, width: box.width }}
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
export function returning({
  watts0,
  wattsN,
  shrunk,
  endX,
}: {
  /** Null where it is next to nothing. */
  watts0: string | null
  /** Null where nothing that arrives there is a wave. */
  wattsN: string | null
  shrunk: number
  endX: number
}) {
  const top = TOP + BAND + RETURNED_GAP - 3
  return (
    <>
      {watts0 !== null && (
        <span
          className="absolute bg-sheet text-xs whitespace-nowrap text-returned"
          style={{ left: AXIS + 8, top }}
        >
          {watts0} reflected here
        </span>
      )}
      <span
        className="absolute whitespace-nowrap pl-2 text-xs text-returned"
        style={{ left: endX, top }}
      >
        {/* A range takes the room of two figures: the word goes below it. */}
        {wattsN !== null && `◂ ${wattsN}`}
        {wattsN !== null && (
          <span className={wattsN.includes(' to ') ? 'block pl-2.5' : ''}> reflected</span>
        )}
        {shrunk > 1 && <span className="block">drawn at 1 : {Math.ceil(shrunk)}</span>}
      </span>
    </>
  )
}

export function atAntenna({
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
        <span key={text} className="mt-1 block whitespace-nowrap text-sm text-ink">
          {text}
        </span>
      ))}
    </div>
  )
}
