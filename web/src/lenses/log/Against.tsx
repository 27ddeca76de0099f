/** A reading against what was expected: the band of 5 to 95 %, the middle, and where the reading lies. */

const WIDTH = 116
const HEIGHT = 18

/** The scale is as wide as the band three times over, or as it takes to hold the reading. */
export function Against({
  value,
  low,
  expected,
  high,
  logarithmic = false,
}: {
  value: number
  low: number
  expected: number
  high: number
  /** Watts differ by ratios, not by differences. */
  logarithmic?: boolean
}) {
  const f = (v: number) => (logarithmic ? Math.log(Math.max(v, expected * 1e-3)) : v)
  const middle = f(expected)
  const reach = Math.max(
    2.2 * (f(high) - middle),
    2.2 * (middle - f(low)),
    Math.abs(f(value) - middle) * 1.12,
    1e-6,
  )
  const x = (v: number) => WIDTH / 2 + ((f(v) - middle) / reach) * (WIDTH / 2 - 5)
  const inside = value >= low && value <= high
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden className="inline-block shrink-0 align-middle">
      <line x1={0} x2={WIDTH} y1={9} y2={9} stroke="var(--rule)" />
      <rect x={x(low)} width={x(high) - x(low)} y={3.5} height={11} fill="var(--tide-fill)" />
      <line
        x1={x(expected)}
        x2={x(expected)}
        y1={2}
        y2={16}
        stroke="var(--tide)"
        strokeWidth={1.5}
      />
      {inside ? (
        <circle cx={x(value)} cy={9} r={4} fill="var(--ink)" />
      ) : (
        <path d={`M${x(value)} 3.5 l5 5.5 l-5 5.5 l-5 -5.5 z`} fill="var(--danger)" />
      )}
    </svg>
  )
}
