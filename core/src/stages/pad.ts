import { InputError } from '../errors.ts'
import { formatFrequency } from '../units/format.ts'
import { throughStresses } from './stress.ts'
import { half } from '../statistics/random.ts'
import type { StageModel } from './model.ts'
import { type Abcd, hyperbolic, writeReal } from './twoPort.ts'

const hyper = new Float64Array(2)

/** A matched two-port of known loss: connector, switch, arrester, meter, filter, choke, attenuator. */
export interface PadStage {
  kind: 'pad'
  /** Insertion loss between matched ends, dB ≥ 0. */
  lossDb: number
  /** Where the loss was stated, Hz; it then grows as √f. Without it the loss is flat. */
  atHz?: number | undefined
  /** Loss over frequency, [Hz, dB] rising in Hz; where it is given, it counts instead. */
  points?: readonly (readonly [hz: number, db: number])[] | undefined
  /** Of a filter: what it lets through, Hz; it blocks the rest. Without it nothing is blocked. */
  passes?: readonly [lowHz: number, highHz: number] | undefined
}

/**
 * Loss at a frequency, dB. Between points as a power of f, below and above them as √f.
 *
 * @example padLossDb({ kind: 'pad', lossDb: 0.1, atHz: 10e6 }, 40e6) // 0.2
 */
export function padLossDb({ lossDb, atHz, points }: PadStage, frequencyHz: number): number {
  if (points && points.length > 0) return lossBetween(points, frequencyHz)
  return atHz === undefined ? lossDb : lossDb * Math.sqrt(frequencyHz / atHz)
}

function lossBetween(points: NonNullable<PadStage['points']>, hz: number): number {
  const first = points[0]!
  const last = points[points.length - 1]!
  if (hz <= first[0]) return first[1] * Math.sqrt(hz / first[0])
  if (hz >= last[0]) return last[1] * Math.sqrt(hz / last[0])
  let i = 1
  while (points[i]![0] < hz) i++
  const [f0, a] = points[i - 1]!
  const [f1, b] = points[i]!
  const t = Math.log(hz / f0) / Math.log(f1 / f0)
  return a > 0 && b > 0 ? a * (b / a) ** t : a + t * (b - a)
}

/**
 * Whether a part lets a frequency through.
 *
 * @example padPasses({ kind: 'pad', lossDb: 0.3, passes: [1e4, 30e6] }, 156e6) // false
 */
export const padPasses = ({ passes }: PadStage, hz: number): boolean =>
  !passes || (hz >= passes[0] && hz <= passes[1])

/** A matched attenuator is a lossy line of no length: [cosh a, Z₀·sinh a; sinh a/Z₀, cosh a]. */
export function writePad(
  stage: PadStage,
  frequencyHz: number,
  referenceOhm: number,
  out: Abcd,
): void {
  // What is blocked has no figure: a curve has a gap there.
  if (!padPasses(stage, frequencyHz)) return void out.fill(NaN)
  const scale = hyperbolic((padLossDb(stage, frequencyHz) * Math.LN10) / 20, hyper)
  const cosh = hyper[0]!
  const sinh = hyper[1]!
  writeReal(out, cosh, referenceOhm * sinh, sinh / referenceOhm, cosh)
  out[8] = scale
}

/**
 * Checks, matrix and tolerances of a matched loss.
 *
 * @internal
 */
export const padModel: StageModel<PadStage> = {
  check: ({ lossDb, points, passes }, { positive, notNegative, refuse }) => {
    if (passes && !(passes[1] > passes[0]))
      refuse('What a filter lets through ends before it begins.', 'passes')
    notNegative(lossDb, 'Loss', 'lossDb')
    points?.forEach(([hz, db], i) => {
      positive(hz, 'Frequency', 'points', i, 0)
      notNegative(db, 'Loss', 'points', i, 1)
    })
  },
  write: writePad,
  covers: (stage, hz) => {
    if (padPasses(stage, hz)) return
    const [low, high] = stage.passes!
    throw new InputError(
      `This filter blocks ${formatFrequency(hz)}: it lets ${formatFrequency(low)} to ${formatFrequency(high)} through. Choose another filter, or bypass it.`,
      ['passes'],
    )
  },
  varied: {
    copy: (stage) => ({ ...stage }),
    draw: (from, to, tolerances, random) => {
      const loss = Math.max(0, 1 + half(random) * tolerances.parts)
      to.lossDb = from.lossDb * loss
      if (from.points) to.points = from.points.map(([hz, db]) => [hz, db * loss] as const)
    },
  },
  flat: ({ atHz, points }) => atHz === undefined && !points?.length,
  stresses: (_stage, at) => throughStresses(at),
  lossless: () => null,
}
