/** How long the uncertainty of a whole chain takes: 2 000 draws on all its channels. */
import { type Chain, chainUncertainty, type Stage, usualTolerances } from '../src/index.ts'

const foam = { z0Ohm: 50, velocityFactor: 0.83, k1DbPer100m: 0.72, k2DbPer100m: 0.0025 }
const line = (lengthM: number): Stage => ({ kind: 'line', lengthM, cable: foam })
const pad = (lossDb: number): Stage => ({ kind: 'pad', lossDb })
const tuner: Stage = {
  kind: 'tuner',
  method: 'network',
  network: 'T',
  shuntAt: 'either',
  coilH: [0.2e-6, 25e-6],
  capacitorF: [18e-12, 330e-12],
  coilQ: 180,
  coilQAtHz: 7e6,
  capacitorQ: 1200,
}
const chains: Record<string, Stage[]> = {
  'seven stages': [line(1.2), pad(0.06), line(4), pad(0.07), line(46), pad(0.15), line(2)],
  'seven stages, a tuner among them': [
    line(1.2),
    pad(0.06),
    tuner,
    line(4),
    pad(0.07),
    line(46),
    pad(0.15),
  ],
}
for (const [name, stages] of Object.entries(chains)) {
  const chain: Chain = {
    transmitter: {
      behaviour: 'levelled',
      foldback: [
        [1.5, 1],
        [3, 0.5],
      ],
    },
    stages,
    load: { kind: 'fixed', rOhm: 90, xOhm: 40 },
  }
  const at = [4.1e6, 6.2e6, 8.3e6, 12.4e6].map((frequencyHz) => ({ frequencyHz, powerW: 125 }))
  chainUncertainty(chain, at, usualTolerances, { draws: 100 })
  const began = performance.now()
  chainUncertainty(chain, at, usualTolerances)
  console.log(
    `Uncertainty, ${name}: 2000 draws × 4 channels in ${(performance.now() - began).toFixed(0)} ms`,
  )
}
