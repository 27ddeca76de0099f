/** Pieces of the small stations that several tests are about. */
import type { Chain, Stage, Tolerances } from '../src/index.ts'

export const foam = { z0Ohm: 50, velocityFactor: 0.83, k1DbPer100m: 0.72, k2DbPer100m: 0.0025 }

export const foamLine = (lengthM: number): Stage => ({ kind: 'line', lengthM, cable: foam })

/** A T of two capacitors and a coil, with knobs. */
export const handTuner: Stage = {
  kind: 'tuner',
  method: 'network',
  network: 'T',
  shuntAt: 'either',
  coilH: [0.2e-6, 25e-6],
  capacitorF: [18e-12, 330e-12],
  coilQ: 180,
  capacitorQ: 1200,
}

/** A levelled radio that folds back, on some stages. */
export const stationOf = (
  stages: Stage[],
  load: Chain['load'] = { kind: 'fixed', rOhm: 80, xOhm: 30 },
): Chain => ({
  transmitter: {
    behaviour: 'levelled',
    foldback: [
      [1.5, 1],
      [3, 0.5],
    ],
  },
  stages,
  load,
})

export const knownExactly: Tolerances = { length: 0, cable: 0, parts: 0, source: 0, reflection: 0 }

/** A lead, an arrester, a run up a mast, a joint; an antenna that is nearly matched. */
export const mastRun: Chain = {
  transmitter: { behaviour: 'levelled', foldback: [] },
  stages: [
    { kind: 'line', lengthM: 1, cable: foam },
    { kind: 'pad', lossDb: 0.1 },
    { kind: 'line', lengthM: 40, cable: foam },
    { kind: 'pad', lossDb: 0.05 },
  ],
  load: { kind: 'fixed', rOhm: 60, xOhm: 8 },
}
