/** How long a tuner takes: one setting of relays or knobs, and three places over 300 frequencies. */
import { Bench } from 'tinybench'
import { type Chain, complex, frequencyGrid, type TunerStage, worthOverBand } from '../src/index.ts'
import { setTuner } from '../src/tuner/tuner.ts'

const relays: TunerStage = {
  kind: 'tuner',
  method: 'stepped',
  coilBits: 7,
  coilStepH: 0.08e-6,
  capacitorBits: 7,
  capacitorStepF: 10e-12,
  coilQ: 150,
  capacitorQ: 800,
  contentSwr: 1.5,
}
const tenBits: TunerStage = {
  ...relays,
  coilBits: 10,
  coilStepH: 0.01e-6,
  capacitorBits: 10,
  capacitorStepF: 1.3e-12,
}
const knobs: TunerStage = {
  kind: 'tuner',
  method: 'network',
  network: 'T',
  shuntAt: 'either',
  coilH: [0.1e-6, 28e-6],
  capacitorF: [15e-12, 250e-12],
  coilQ: 200,
  capacitorQ: 1000,
}
const chain: Chain = {
  transmitter: {
    behaviour: 'levelled',
    foldback: [
      [1.5, 1],
      [3, 0.5],
      [10, 0.1],
    ],
  },
  stages: [
    {
      kind: 'line',
      lengthM: 46,
      cable: { z0Ohm: 50, velocityFactor: 0.82, k1DbPer100m: 0.75, k2DbPer100m: 0.003 },
    },
  ],
  load: { kind: 'fixed', rOhm: 180, xOhm: -140 },
}
const grid = frequencyGrid(3e6, 15e6, 300)
const load = complex(180, -140)

const bench = new Bench({ time: 600 })
bench
  .add('relays', () => void setTuner(relays, load, 7e6, 50))
  .add('ten bits', () => void setTuner(tenBits, load, 7e6, 50))
  .add('knobs', () => void setTuner(knobs, load, 7e6, 50))
await bench.run()
const median = (name: string): string => {
  const { result } = bench.getTask(name)!
  if (!result || !('latency' in result)) throw new Error(`${name} did not run`)
  return result.latency.p50.toFixed(2)
}

/** Once is enough: it takes long. */
const overBand = (tuner: TunerStage): string => {
  const start = performance.now()
  worthOverBand(chain, tuner, grid, { powerW: 125 })
  return (performance.now() - start).toFixed(0)
}

console.log(
  `relays, all 2 × 2⁷ × 2⁷ settings at a frequency:   ${median('relays')} ms (aim: well under 50)`,
)
console.log(`relays of ten bits, of all 2 × 2¹⁰ × 2¹⁰ settings:  ${median('ten bits')} ms (aim: 5)`)
console.log(`knobs, a T with the least loss at a frequency:   ${median('knobs')} ms`)
console.log(`relays in two places over 300 frequencies:       ${overBand(relays)} ms (in a worker)`)
console.log(`knobs in two places over 300 frequencies:        ${overBand(knobs)} ms (in a worker)`)
