import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import { profileOf } from '@saltline/core'
import type { ChannelAnswer } from '../../model/answers.ts'
import { useWidth } from '../../ui/useWidth.ts'
import { ANTENNA, AXIS, lyingSlots } from '../../spine/lyingSizes.ts'
import { surroundingsOf } from '../../model/headroomWords.ts'

const HEIGHT = 96
const TOP = 14
const BOTTOM = 8
/** Beyond this multiple of a limit the curve is cut off. */
const MOST = 2
/** Narrower, the spine runs downward and there is nothing to lie under. */
const NARROW_PX = 700

/** Voltage and heat against their limits, under the spine and on its scale. */
export function ProfileStrip({
  document,
  channel,
  answer,
}: {
  document: ChainDocument
  channel: ChannelDocument
  answer: ChannelAnswer | null
}) {
  const [ref, width] = useWidth<HTMLDivElement>()
  return (
    <div ref={ref} className="overflow-hidden">
      {width >= NARROW_PX && answer?.ok && (
        <Strip document={document} channel={channel} answer={answer} width={width} />
      )}
    </div>
  )
}

function Strip({
  document,
  channel,
  answer,
  width,
}: {
  document: ChainDocument
  channel: ChannelDocument
  answer: ChannelAnswer & { ok: true }
  width: number
}) {
  const { stages } = document
  const slots = lyingSlots(stages, width)
  const profile = profileOf(stages, answer.solution, surroundingsOf(document, channel))
  const all = profile.flatMap(({ voltage, heat }) => [...(voltage ?? []), ...(heat ?? [])])
  const top = Math.min(MOST, Math.max(1.15, ...all) * 1.05)
  const y = (share: number) =>
    HEIGHT - BOTTOM - (Math.min(share, top) / top) * (HEIGHT - TOP - BOTTOM)
  const curve = (values: number[] | null, k: number): string => {
    if (!values) return ''
    const { start, end } = slots.stages[k]!
    return values
      .map((share, i) => {
        const x = AXIS + start + ((end - start) * i) / (values.length - 1)
        return `${i === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y(share).toFixed(1)}`
      })
      .join('')
  }
  const left = AXIS + slots.transmitter.end
  const right = AXIS + slots.end
  return (
    <svg
      width={Math.max(width, right + ANTENNA)}
      height={HEIGHT}
      role="img"
      aria-label="Voltage and heat along the chain, as shares of their limits"
      fontSize="12"
      className="block"
    >
      <path d={`M${left} ${y(0)}H${right}`} stroke="var(--rule)" />
      <path
        d={`M${left} ${y(1)}H${right}`}
        stroke="var(--danger)"
        strokeWidth="1.4"
        strokeDasharray="7 4"
      />
      <text x={left - 8} y={y(1) + 4} textAnchor="end" fill="var(--danger)">
        limit
      </text>
      <text x={left - 8} y={y(0)} textAnchor="end" fill="var(--muted)">
        none
      </text>
      {profile.map(({ voltage, heat }, k) => (
        <g key={k} fill="none">
          <path d={curve(heat, k)} stroke="var(--heat)" strokeWidth="2.2" />
          <path d={curve(voltage, k)} stroke="var(--ink)" strokeWidth="1.8" />
          {!voltage && !heat && !stages[k]!.bypassed && (
            <text
              x={AXIS + (slots.stages[k]!.start + slots.stages[k]!.end) / 2}
              y={y(0) - 5}
              textAnchor="middle"
              fill="var(--muted)"
            >
              ?
            </text>
          )}
        </g>
      ))}
      <text x={right + 12} y={y(0.62)} fill="var(--ink)">
        ▬ voltage at PEP
      </text>
      <text x={right + 12} y={y(0.28)} fill="var(--heat)">
        ▬ heating, average
      </text>
    </svg>
  )
}
