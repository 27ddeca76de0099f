import { type Complex, decimals, formatFrequency, rhoOfSwr } from '@saltline/core'

const SIZE = 290
const RADIUS = 118
const CIRCLES = [1.5, 2, 3, 6]

const x = ({ re }: Complex): number => SIZE / 2 + re * RADIUS
const y = ({ im }: Complex): number => SIZE / 2 - im * RADIUS

/** Reflections of one sweep, as a trail. */
export interface Trail {
  reflection: readonly Complex[]
  name: string
  colour: string
  dash?: string
}

const pathOf = (reflection: readonly Complex[]) =>
  `M${reflection.map((rho) => `${x(rho).toFixed(1)},${y(rho).toFixed(1)}`).join('L')}`

/**
 * The reflection as a plain polar drawing: a perfect match in the middle, everything returned at the
 * rim, rings of equal SWR, the sweep as a trail from its low end to its high end, others with it.
 */
export function ReflectionChart({
  frequencyHz,
  reflection,
  others = [],
  colour = 'var(--ink)',
  channelHz,
  swrLimit,
  here = null,
}: {
  frequencyHz: ArrayLike<number>
  reflection: readonly Complex[]
  others?: readonly Trail[]
  colour?: string
  channelHz?: number
  swrLimit?: number
  /** On the channel; null where it is not covered. */
  here?: Complex | null
}) {
  const [low, high] = [reflection[0]!, reflection.at(-1)!]
  const [lowHz, highHz] = [frequencyHz[0]!, frequencyHz[frequencyHz.length - 1]!]
  const marked = here && channelHz !== undefined ? { here, channelHz } : null
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      className="mx-auto block w-full max-w-[300px]"
      role="img"
      aria-label={`Reflection from ${formatFrequency(lowHz)} to ${formatFrequency(highHz)}${others.map(({ name }) => `, with ${name}`).join('')}${marked ? `; on ${formatFrequency(marked.channelHz)} ${decimals(Math.hypot(marked.here.re, marked.here.im), 2)} of the voltage comes back` : ''}`}
      fontSize="12"
    >
      {swrLimit !== undefined && (
        <circle
          cx={SIZE / 2}
          cy={SIZE / 2}
          r={rhoOfSwr(swrLimit) * RADIUS}
          fill="var(--tide-fill)"
          opacity="0.55"
        />
      )}
      <g fill="none" stroke="var(--rule)">
        {CIRCLES.map((swr) => (
          <circle key={swr} cx={SIZE / 2} cy={SIZE / 2} r={rhoOfSwr(swr) * RADIUS} />
        ))}
        <circle cx={SIZE / 2} cy={SIZE / 2} r={RADIUS} stroke="var(--ink)" strokeWidth="1.4" />
        <path
          d={`M${SIZE / 2 - RADIUS} ${SIZE / 2}h${2 * RADIUS}M${SIZE / 2} ${SIZE / 2 - RADIUS}v${2 * RADIUS}`}
        />
      </g>
      <g fill="var(--muted)" textAnchor="middle">
        {CIRCLES.slice(1).map((swr) => (
          <text
            key={swr}
            x={SIZE / 2 - rhoOfSwr(swr) * RADIUS * 0.707}
            y={SIZE / 2 + rhoOfSwr(swr) * RADIUS * 0.707 + 4}
            stroke="var(--sheet)"
            strokeWidth="3"
            paintOrder="stroke"
          >
            {swr}
          </text>
        ))}
        <text x={SIZE / 2} y={SIZE / 2 - RADIUS - 6}>
          inductive
        </text>
        <text x={SIZE - 2} y={SIZE - 4} textAnchor="end">
          capacitive
        </text>
      </g>
      {others.map((other) => (
        <path
          key={other.name}
          d={pathOf(other.reflection)}
          fill="none"
          stroke={other.colour}
          strokeWidth="1.4"
          strokeDasharray={other.dash}
          strokeLinejoin="round"
        />
      ))}
      <path
        d={pathOf(reflection)}
        fill="none"
        stroke={colour}
        strokeWidth="1.8"
        strokeLinejoin="round"
      />
      <circle cx={x(low)} cy={y(low)} r="3" fill="var(--sheet)" stroke={colour} strokeWidth="1.5" />
      <path d={`M${x(high) - 4} ${y(high) - 4}l8 8m0-8l-8 8`} stroke={colour} strokeWidth="1.8" />
      {marked && <Mark {...marked} />}
      <text x="2" y={SIZE - 4} fill="var(--muted)">
        ○ {decimals(lowHz / 1e6, 2)} to ✕ {decimals(highHz / 1e6, 2)} MHz
      </text>
    </svg>
  )
}

/** The reflection on a channel, with its frequency. */
function Mark({ here, channelHz }: { here: Complex; channelHz: number }) {
  return (
    <>
      <circle
        cx={x(here)}
        cy={y(here)}
        r="5"
        fill="var(--tide)"
        stroke="var(--sheet)"
        strokeWidth="1.5"
      />
      <text
        x={x(here) + (here.re > 0.4 ? -9 : 9)}
        y={y(here) - 8}
        textAnchor={here.re > 0.4 ? 'end' : 'start'}
        fill="var(--ink)"
        fontWeight="bold"
        stroke="var(--sheet)"
        strokeWidth="3"
        paintOrder="stroke"
      >
        {decimals(channelHz / 1e6, 3)}
      </text>
    </>
  )
}
