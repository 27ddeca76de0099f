/**
 * Whether nine of ten truths lie where the ranges say. Stations are drawn within their tolerances and solved exactly,
 * tuners set anew; the table has, for every class of chain, the share of truths inside of 5 to 95 %.
 */
import {
  type Chain,
  chainUncertainty,
  drawnChain,
  seeded,
  solveChain,
  type Stage,
  stationDraws,
  usualTolerances,
} from '../src/index.ts'

const TRUTHS = Number(process.env['TRUTHS'] ?? 400)

const foam = { z0Ohm: 50, velocityFactor: 0.83, k1DbPer100m: 0.72, k2DbPer100m: 0.0025 }
const line = (lengthM: number): Stage => ({ kind: 'line', lengthM, cable: foam })
const pad = (lossDb: number): Stage => ({ kind: 'pad', lossDb })
const knobs = (network: 'T' | 'L-low-pass' | 'pi'): Stage => ({
  kind: 'tuner',
  method: 'network',
  network,
  shuntAt: 'either',
  coilH: [0.2e-6, 25e-6],
  capacitorF: [18e-12, 330e-12],
  coilQ: 180,
  capacitorQ: 1200,
})
const relays: Stage = {
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
const given: Stage = { kind: 'tuner', method: 'given', lossDb: 0.4, residualSwr: 1.2, reachSwr: 3 }

const plain = [line(1.2), pad(0.06), line(4), pad(0.07), line(46), pad(0.15)]
const tuned = (tuner: Stage) => [line(1.2), tuner, line(4), pad(0.07), line(46), pad(0.15)]
const classes: Record<string, Stage[]> = {
  'no tuner': plain,
  'T network': tuned(knobs('T')),
  'π network': tuned(knobs('pi')),
  'L network': tuned(knobs('L-low-pass')),
  relays: tuned(relays),
  'known by its loss': tuned(given),
}
const loads: [string, Chain['load']][] = [
  ['90 + j40 Ω', { kind: 'fixed', rOhm: 90, xOhm: 40 }],
  ['12 − j150 Ω', { kind: 'fixed', rOhm: 12, xOhm: -150 }],
  ['SWR 2', { kind: 'swr', swr: 2 }],
  ['SWR 5', { kind: 'swr', swr: 5 }],
]
const HZ = [1.9e6, 7.1e6]

interface Figures {
  antenna: number
  radio: number
  swr: number
  forward: number
}

const table: Record<string, Record<string, string>> = {}
for (const [name, stages] of Object.entries(classes))
  for (const [loadName, load] of loads) {
    const chain: Chain = {
      transmitter: {
        behaviour: 'levelled',
        foldback: [
          [1.5, 1],
          [3, 0.5],
        ],
      },
      stages,
      load,
    }
    const inside: Figures = { antenna: 0, radio: 0, swr: 0, forward: 0 }
    let all = 0
    HZ.forEach((frequencyHz, f) => {
      const at = { frequencyHz, powerW: 125 }
      const [range] = chainUncertainty(chain, [at], usualTolerances)
      const draw = stationDraws(chain, [at], usualTolerances)
      const random = seeded(77 + f)
      for (let i = 0; i < TRUTHS; i++) {
        const real = draw(random)
        const { antennaW, transmitterNetW, planes } = solveChain(drawnChain(chain, real, 0), {
          ...at,
          powerW: real.powerW[0]!,
        })
        const { swr, forwardW } = planes[0]!
        const near = range!.planes[0]!
        const within = (value: number, { low, high }: { low: number; high: number }) =>
          Number(value >= low - 1e-9 * Math.abs(low) && value <= high + 1e-9 * Math.abs(high))
        inside.antenna += within(antennaW, range!.antennaW)
        inside.radio += within(transmitterNetW, range!.transmitterNetW)
        inside.swr += within(swr, near.swr)
        inside.forward += within(forwardW, near.forwardW)
        all++
      }
    })
    const share = (part: number) => `${((100 * part) / all).toFixed(1)} %`
    table[`${name}, ${loadName}`] = {
      'at the antenna': share(inside.antenna),
      'from the radio': share(inside.radio),
      'SWR at the radio': share(inside.swr),
      'forward at the radio': share(inside.forward),
    }
  }
console.log(`Truths inside of 5 to 95 %, of ${TRUTHS * HZ.length} each (aim: 90 ± 2 %):`)
console.table(table)
