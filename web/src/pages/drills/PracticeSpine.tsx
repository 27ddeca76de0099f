import {
  formatPower,
  type FindDrill,
  type MeterReading,
  placeName,
  swrRead,
  formatSwr,
} from '@saltline/core'
import { useMemo } from 'react'
import { layOut, planePositions } from '../../spine/geometry.ts'
import { useUnits } from '../../platform/preferences.ts'
import { Scroll } from '../../ui/Scroll.tsx'
import { useWidth } from '../../ui/useWidth.ts'
import type { StageDocument } from '@saltline/contract'

const TOP = 34
const HEIGHT = 108
const LEFT = 56
const RIGHT = 116

/** Label rows under the band's top, so that readings of neighbouring planes do not meet. */
const ROW = 34

/**
 * The spine as far as it is known: fog where nothing was read, light where it was, as far as it was; at the end the
 * truth over it.
 */
export function PracticeSpine({
  drill,
  readings,
  meterAt,
  truthW,
  onPlace,
}: {
  drill: FindDrill
  /** Readings on the first channel at full power, the newest last. */
  readings: readonly MeterReading[]
  /** Plane of the meter; null where it is in nobody’s hand any more. */
  meterAt: number | null
  /** Net power at every plane as it really is; null while that is hidden. */
  truthW: readonly number[] | null
  onPlace?: (plane: number) => void
}) {
  const [ref, width] = useWidth<HTMLDivElement>()
  const { power } = useUnits()
  const { station } = drill
  const setW = station.channels[0]!.powerW
  const across = Math.max(560, width) - LEFT - RIGHT
  const slots = useMemo(
    () =>
      layOut(station.chain.stages as unknown as StageDocument[], {
        available: across,
        transmitter: 90,
        // Names of neighbours do not meet; on a phone the spine is longer than the window.
        least: width < 900 ? 108 : 74,
        device: 84,
      }),
    [station, across, width],
  )
  const planes = planePositions(slots)
  const scale = HEIGHT / (setW * 1.12)
  const base = TOP + HEIGHT
  const y = (watts: number) => base - Math.min(watts, setW * 1.12) * scale
  const x = (plane: number) => LEFT + planes[plane]!
  const newest = new Map(readings.map((reading) => [reading.plane, reading]))
  const netOf = ({ forwardW = 0, reflectedW = 0 }: MeterReading) =>
    Math.max(0, forwardW - reflectedW)
  const end = LEFT + slots.end
  const seen = [...newest.values()].toSorted((a, b) => a.plane - b.plane)
  const description = `Spine of ${station.name}. ${
    seen.length === 0
      ? 'Nothing was read yet.'
      : `Read: ${seen.map((r) => `${formatPower(r.forwardW!)} ${placeName(drill, r.plane)}`).join(', ')}.`
  }`
  return (
    <div ref={ref}>
      <Scroll label={`Spine of ${station.name}`}>
        <svg
          width={end + RIGHT}
          height={base + 66}
          role="img"
          aria-label={description}
          className="block"
        >
          <defs>
            <pattern
              id="fog"
              width={9}
              height={9}
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <path d="M0,0V9" stroke="var(--rule)" strokeWidth={2} />
            </pattern>
          </defs>
          <rect
            x={LEFT}
            y={y(setW)}
            width={slots.end}
            height={base - y(setW)}
            fill={truthW ? 'none' : 'url(#fog)'}
          />
          {truthW && (
            <path
              d={`M${LEFT},${base}L${LEFT},${y(truthW[0]!)}${truthW.map((w, k) => `L${x(k)},${y(w)}`).join('')}L${end},${base}Z`}
              fill="var(--tide-fill)"
              stroke="var(--tide)"
              strokeWidth={2}
            />
          )}
          {newest.has(0) && !truthW && (
            <rect
              x={LEFT}
              y={y(netOf(newest.get(0)!))}
              width={planes[0]}
              height={base - y(netOf(newest.get(0)!))}
              fill="var(--tide-fill)"
            />
          )}
          {!truthW &&
            seen.slice(1).map((reading, i) => {
              const before = seen[i]!
              if (before.plane !== reading.plane - 1) return null
              const [a, b] = [y(netOf(before)), y(netOf(reading))]
              return (
                <path
                  key={reading.plane}
                  d={`M${x(before.plane)},${base}V${a}L${x(reading.plane)},${b}V${base}Z`}
                  fill="var(--tide-fill)"
                />
              )
            })}
          <path
            d={`M${LEFT},${y(setW)}H${end}`}
            stroke="var(--ink)"
            strokeWidth={1.6}
            strokeDasharray="7 4"
          />
          <text x={end} y={y(setW) - 7} textAnchor="end" fontSize={13} fill="var(--ink)">
            set power {formatPower(setW, power)}
          </text>
          <path d={`M${LEFT},${base}H${end}`} stroke="var(--edge)" />
          {planes.map((at, plane) => (
            <path
              key={plane}
              d={`M${LEFT + at},${base}V${base + 10}`}
              stroke="var(--edge)"
              strokeDasharray="2 2"
            />
          ))}
          {seen.map((reading, i) => {
            const swr = swrRead(reading)
            const at = x(reading.plane)
            const top = y(netOf(reading))
            const low = Math.min(base - 24, Math.max(TOP + 16, top + 20 + (i % 2) * ROW))
            const last = reading.plane === planes.length - 1
            return (
              <g key={reading.plane}>
                <path d={`M${at},${base}V${top}`} stroke="var(--tide)" strokeWidth={2.4} />
                <circle
                  cx={at}
                  cy={top}
                  r={4.5}
                  fill="var(--sheet)"
                  stroke="var(--tide)"
                  strokeWidth={2}
                />
                <g
                  fill="var(--ink)"
                  stroke="var(--sheet)"
                  strokeWidth={4}
                  paintOrder="stroke"
                  fontSize={13}
                >
                  <text x={at + (last ? 10 : 8)} y={low} fontWeight={700} fontSize={14}>
                    {formatPower(reading.forwardW!, power)}
                  </text>
                  {swr !== null && (
                    <text x={at + (last ? 10 : 8)} y={low + 16}>
                      SWR {formatSwr(swr)}
                    </text>
                  )}
                </g>
              </g>
            )
          })}
          {meterAt !== null && (
            <g transform={`translate(${x(meterAt)} ${base + 4})`}>
              <circle r={9} fill="var(--sheet)" stroke="var(--caution)" strokeWidth={2.4} />
              <circle r={3.4} fill="var(--caution)" />
            </g>
          )}
          <Stages drill={drill} slots={slots} left={LEFT} top={base + 24} />
          {onPlace &&
            planes.map((at, plane) => (
              <g key={plane}>
                <title>{`Put the meter ${placeName(drill, plane)}`}</title>
                <rect
                  x={LEFT + at - 14}
                  y={base - 8}
                  width={28}
                  height={26}
                  fill="transparent"
                  className="cursor-pointer"
                  onClick={() => onPlace(plane)}
                />
              </g>
            ))}
        </svg>
      </Scroll>
    </div>
  )
}

function Stages({
  drill: { station },
  slots,
  left,
  top,
}: {
  drill: FindDrill
  slots: ReturnType<typeof layOut>
  left: number
  top: number
}) {
  const { chain, stageNames } = station
  return (
    <>
      <rect
        x={left}
        y={top - 6}
        width={slots.transmitter.end - 8}
        height={12}
        rx={2}
        fill="var(--ink)"
      />
      {chain.stages.map((stage, k) => {
        const { start, end } = slots.stages[k]!
        return (
          <path
            key={k}
            d={`M${left + start + 4},${top}H${left + end - 4}`}
            stroke="var(--ink)"
            strokeWidth={stage.kind === 'line' ? 4 : 2}
          />
        )
      })}
      <path
        d={`M${left + slots.end + 4},${top}h52v-20m-16,4l16,-8l16,8`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={2}
      />
      <g fontSize={13} fill="var(--ink)" textAnchor="middle">
        <text x={left + slots.transmitter.end / 2 - 4} y={top + 28}>
          {station.radio}
        </text>
        {chain.stages.map((stage, k) => {
          const { start, end } = slots.stages[k]!
          return (
            <text key={k} x={left + (start + end) / 2} y={top + 28}>
              {stageNames[k]}
              {stage.kind === 'line' && stage.lengthM > 10 ? `, ${stage.lengthM} m` : ''}
            </text>
          )
        })}
        <text x={left + slots.end + 56} y={top + 28}>
          {station.antenna}
        </text>
      </g>
    </>
  )
}
