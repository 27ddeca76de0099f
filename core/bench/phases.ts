/** How far the extremes over an unknown phase are from those of looking everywhere, and how long an answer takes. */
import { type Chain, answerChain, seeded, type Stage, sweepBand } from '../src/index.ts'
import {
  chainFigures,
  type Figures,
  ofPlane,
  ofStage,
  PLANE_FIGURES,
  STAGE_FIGURES,
} from '../src/chain/chainFigures.ts'
import { phases } from '../src/chain/allRound.ts'
import type { Random } from '../src/statistics/random.ts'

const CHAINS = Number(process.env['CHAINS'] ?? 20)
const EVERYWHERE = Number(process.env['EVERYWHERE'] ?? 3600)
const SEED = Number(process.env['SEED'] ?? 1)

const CABLES = [
  { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 0.62, k2DbPer100m: 0.006 },
  { z0Ohm: 50, velocityFactor: 0.82, k1DbPer100m: 0.3, k2DbPer100m: 0.002 },
  { z0Ohm: 75, velocityFactor: 0.8, k1DbPer100m: 0.5, k2DbPer100m: 0.003 },
]
const MHZ = [1.85, 3.65, 5.3, 7.1, 10.1, 14.2, 21.2, 28.5]
const KINDS = ['no tuner', 'relays', 'L-low-pass', 'T', 'pi'] as const

const oneOf = <T>(list: readonly T[], random: Random): T =>
  list[Math.floor(list.length * random())]!
const between = (low: number, high: number, random: Random): number => low + (high - low) * random()

function tunerOf(kind: (typeof KINDS)[number], random: Random): Stage[] {
  if (kind === 'no tuner') return []
  const quality = { coilQ: between(100, 300, random), capacitorQ: between(500, 1500, random) }
  if (kind !== 'relays')
    return [
      {
        kind: 'tuner',
        method: 'network',
        network: kind,
        shuntAt: 'either',
        coilH: [0.1e-6, between(5, 30, random) * 1e-6],
        capacitorF: [12e-12, between(150, 550, random) * 1e-12],
        automatic: true,
        ...quality,
      },
    ]
  const [coilBits, capacitorBits] = [oneOf([5, 6, 7, 8], random), oneOf([5, 6, 7, 8], random)]
  return [
    {
      kind: 'tuner',
      method: 'stepped',
      coilBits,
      coilStepH: (between(5, 25, random) * 1e-6) / 2 ** coilBits,
      capacitorBits,
      capacitorStepF: (between(1000, 3500, random) * 1e-12) / 2 ** capacitorBits,
      contentSwr: 1.5,
      ...quality,
    },
  ]
}

const lineOf = (lengthM: number, random: Random): Stage => ({
  kind: 'line',
  lengthM,
  cable: oneOf(CABLES, random),
})

const chainOf = (kind: (typeof KINDS)[number], random: Random): Chain => ({
  transmitter: {
    behaviour: random() < 0.5 ? 'levelled' : 'peaked',
    foldback: [
      [1.5, 1],
      [3, 0.5],
      [10, 0.1],
    ],
  },
  stages: [
    lineOf(between(1, 4, random), random),
    ...tunerOf(kind, random),
    lineOf(between(5, 50, random), random),
  ],
  load: { kind: 'swr', swr: between(1.2, 9, random) },
})

/** By how much of itself something was more extreme than was said. */
const missed = (said: { low: number; high: number }, all: readonly number[]): number =>
  Math.max(0, said.low / Math.min(...all) - 1, Math.max(...all) / said.high - 1)

const row = (kind: (typeof KINDS)[number]) => {
  const random = seeded(SEED)
  let [answer, band] = [0, 0]
  const times: number[] = []
  for (let i = 0; i < CHAINS; i++) {
    const chain = chainOf(kind, random)
    const at = { frequencyHz: oneOf(MHZ, random) * 1e6, powerW: 100 }
    const start = performance.now()
    const { planes, stages } = answerChain(chain, at).spread!
    times.push(performance.now() - start)
    const figuresAt = chainFigures(chain, at)
    const all = phases(EVERYWHERE).map((phase) => figuresAt(phase, []))
    const of = (index: number) => all.map((figures: Figures) => figures[index]!)
    planes.forEach((plane, k) =>
      PLANE_FIGURES.forEach((name, f) => {
        if (name !== 'reflectedW')
          answer = Math.max(answer, missed(plane[name], of(ofPlane(k) + f)))
      }),
    )
    stages.forEach((stage, k) =>
      STAGE_FIGURES.forEach((name, f) => {
        // Where next to nothing is lost, a share of it says nothing.
        if (stage[name].low > 0.005 * stage[name].high)
          answer = Math.max(answer, missed(stage[name], of(ofStage(chain, k) + f)))
      }),
    )
    const { antennaWLow, antennaWHigh } = sweepBand(chain, Float64Array.of(at.frequencyHz), 100)
    const edges = { low: antennaWLow[0]!, high: antennaWHigh[0]! }
    band = Math.max(band, missed(edges, of(ofPlane(chain.stages.length))))
  }
  times.sort((a, b) => a - b)
  const percent = (share: number) => `${(100 * share).toFixed(2)} %`
  return {
    'all figures of an answer, worst': percent(answer),
    'edges of a band, worst': percent(band),
    'an answer takes, median': `${times[CHAINS >> 1]!.toFixed(1)} ms`,
    longest: `${times.at(-1)!.toFixed(0)} ms`,
  }
}

console.log(
  `extremes over an unknown phase, ${CHAINS} chains of each kind against ${EVERYWHERE} phases (aim: 0.5 %)`,
)
console.table(Object.fromEntries(KINDS.map((kind) => [kind, row(kind)])))
