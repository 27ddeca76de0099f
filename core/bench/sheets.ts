/**
 * Whether nine of ten truths lie where the bench’s ranges say: readings are drawn around truths by meters whose scale is off
 * evenly within their accuracy, whose needle is read to the nearest half mark, and whose bridge leaks at any phase.
 */
import {
  bothEnds,
  expectReading,
  type Meter,
  modulationDepth,
  onePort,
  type Random,
  seeded,
  substitution,
  throughLine,
  twoMeters,
} from '../src/index.ts'
import { swrOf } from '../src/load/reflection.ts'
import { leakOf, showing } from '../src/measure/meter.ts'
import { even } from '../src/statistics/random.ts'

const TRUTHS = Number(process.env['TRUTHS'] ?? 1000)

const meters: Record<string, Meter> = {
  'needle, of full scale': {
    kind: 'averaging',
    rangesW: [5, 20, 50, 200, 500],
    accuracy: 0.05,
    divisions: 40,
    directivityDb: 28,
  },
  'finds its range': {
    kind: 'averaging',
    rangesW: [],
    accuracy: 0.05,
    accuracyOf: 'reading',
    directivityDb: 30,
  },
  'few marks': {
    kind: 'peak',
    rangesW: [20, 200, 2000],
    accuracy: 0.02,
    divisions: 20,
    directivityDb: 25,
  },
}

/** What a meter shows of some watts, on the smallest range on which the needle stays on its scale. */
const read = (meter: Meter, watts: number, random: Random, rangeW?: number | null): number =>
  showing(meter, watts, { off: even(random), mark: even(random) }, rangeW)

interface Range {
  low: number
  high: number
}
const table: Record<string, Record<string, string>> = {}
function count(sheet: string, column: string, once: (random: Random) => [number, Range] | null) {
  const random = seeded(sheet.length * 131 + column.length)
  let inside = 0
  let all = 0
  while (all < TRUTHS) {
    const drawn = once(random)
    if (!drawn) continue
    const [truth, { low, high }] = drawn
    all++
    if (truth >= low && truth <= high) inside++
  }
  ;(table[sheet] ??= {})[column] = `${((100 * inside) / all).toFixed(1)} %`
}
const between = (random: Random, a: number, b: number) => a * (b / a) ** random()
/** |ρ| as a bridge sees it, its leak at any phase. */
const leaking = (rho: number, leak: number, random: Random) => {
  const phase = 2 * Math.PI * random()
  return Math.hypot(rho + leak * Math.cos(phase), leak * Math.sin(phase))
}

for (const [name, meter] of Object.entries(meters)) {
  count('through line, SWR', name, (random) => {
    const forward = between(random, 8, 150)
    const rho = 0.15 + 0.5 * random()
    const seen = leaking(rho, leakOf(meter), random)
    const pair = {
      forwardW: read(meter, forward, random),
      reflectedW: read(meter, forward * seen ** 2, random),
    }
    if (!(pair.reflectedW < pair.forwardW)) return null
    return [swrOf(rho), throughLine(pair, meter).swr]
  })
  count('substitution, dB', name, (random) => {
    const direct = between(random, 10, 150)
    const db = 0.3 + 3 * random()
    const [sheet] = substitution({
      meter,
      points: [
        {
          frequencyHz: 1e7,
          directW: read(meter, direct, random),
          throughW: read(meter, direct * 10 ** (-db / 10), random),
        },
      ],
    })
    return [db, sheet!.lossDb]
  })
  count('both ends, dB', name, (random) => {
    const near = between(random, 20, 150)
    const db = 0.5 + 2 * random()
    const far = near * 10 ** (-db / 10)
    const pair = (watts: number) => ({
      meter,
      forwardW: read(meter, watts * 1.04, random),
      reflectedW: read(meter, watts * 0.04, random),
    })
    return [db, bothEnds(pair(near), pair(far)).lossDb]
  })
  count('two meters, dB', name, (random) => {
    const watts = between(random, 8, 150)
    const other = meters['finds its range']!
    const { pairs } = twoMeters(meter, other, [
      { firstW: read(meter, watts, random), secondW: read(other, watts, random) },
    ])
    return [0, pairs[0]!.db]
  })
  count('AM depth', name, (random) => {
    const carrier = between(random, 10, 40)
    const depth = 0.4 + 0.6 * random()
    const [c, p] = [read(meter, carrier, random), read(meter, carrier * (1 + depth) ** 2, random)]
    return p > c ? [depth, modulationDepth(c, p, meter).depth] : null
  })
  for (const [what, least, most] of [
    ['expected reading, SWR', 0.1, 0.5],
    ['expected reading, good SWR', 0, 0.06],
  ] as const)
    count(what, name, (random) => {
      const forward = between(random, 20, 150)
      const rho = least + (most - least) * random()
      const seen = leaking(rho, leakOf(meter), random)
      const f = read(meter, forward, random)
      const r = read(meter, forward * seen ** 2, random)
      const plane = { forwardW: forward, swr: swrOf(rho) }
      const { swrRange } = expectReading(plane, { ...meter, kind: 'peak' }, { mode: 'FM' })
      return [swrOf(Math.sqrt(r / f)), swrRange]
    })
  for (const [what, low, high] of [
    ['expected reading, W', 8, 150],
    ['expected reading of little, W', 0.2, 3],
  ] as const)
    count(what, name, (random) => {
      // On the range that was left from before: the error is of the reading’s own order.
      const full = low < 1 ? (meter.rangesW[1] ?? null) : null
      const watts = between(random, low, high)
      const shown = read(meter, watts, random, full)
      const peak = { ...meter, kind: 'peak' as const }
      const { wattsRange } = expectReading(
        { forwardW: watts, swr: 1.5 },
        peak,
        { mode: 'FM' },
        full,
      )
      return [shown, wattsRange]
    })
}
for (const [column, ends] of [
  ['open', ['openDb']],
  ['shorted', ['shortDb']],
  ['both', ['openDb', 'shortDb']],
] as const)
  count('one end, dB', column, (random) => {
    const db = 1 + 3 * random()
    const rho = 10 ** (-db / 10)
    const leak = 10 ** (-35 / 20)
    const phase = 2 * Math.PI * random()
    const seen = (sign: number) =>
      Math.hypot(sign * rho + leak * Math.cos(phase), leak * Math.sin(phase))
    const point = Object.fromEntries(
      ends.map((end) => [
        end,
        -20 * Math.log10(seen(end === 'openDb' ? 1 : -1)) + even(random) * 0.3,
      ]),
    )
    const [sheet] = onePort({
      points: [{ frequencyHz: 1e7, ...point }],
      accuracyDb: 0.3,
      directivityDb: 35,
    })
    return [db, sheet!.lossDb]
  })

console.log(`Truths inside of 5 to 95 % of bench sheets, of ${TRUTHS} each (aim: 90 ± 2 %):`)
console.table(table)
