/** The planner at its largest usual size: three sections, all classes, three places of a tuner, four channels. */
import {
  cableClasses,
  type Chain,
  plan,
  type PlanRequest,
  tunerPlaces,
  type TunerStage,
} from '../src/index.ts'

const cable = (id: string) => cableClasses.find((each) => each.id === id)!
const tuner: TunerStage = {
  kind: 'tuner',
  method: 'network',
  network: 'T',
  shuntAt: 'either',
  coilH: [0.2e-6, 25e-6],
  capacitorF: [18e-12, 330e-12],
  coilQ: 180,
  capacitorQ: 1200,
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
    { kind: 'line', lengthM: 1.2, cable: cable('pe-5') },
    tuner,
    { kind: 'line', lengthM: 4, cable: cable('pe-5') },
    { kind: 'line', lengthM: 46, cable: cable('foam-7') },
  ],
  load: { kind: 'resonator', resonanceHz: 8.2e6, rOhm: 60, q: 12 },
}
const candidates = cableClasses.map((sheet) => ({
  id: sheet.id,
  cable: sheet,
  costPerM: sheet.priceLevel * sheet.outerMm * 0.2,
}))
const request: PlanRequest = {
  chain,
  at: [4.146e6, 6.224e6, 8.294e6, 12.353e6].map((frequencyHz) => ({ frequencyHz, powerW: 125 })),
  counts: [1, 1, 1, 1],
  sections: [0, 2, 3].map((stage) => ({ stage, candidates, presentCost: 0 })),
  costPerSection: 9,
}
const bare: PlanRequest = {
  ...request,
  chain: { ...chain, stages: chain.stages.filter(({ kind }) => kind !== 'tuner') },
  sections: request.sections.map((section, stage) => ({ ...section, stage })),
}
const places = { tuner, places: tunerPlaces, cost: 0 }
for (const [name, asked] of [
  ['cables alone, no tuner', bare],
  ['cables alone, the tuner where it is', request],
  ['and the tuner in three more places', { ...request, tuner: places }],
] as const) {
  const start = performance.now()
  const { combinations, solved, front } = plan(asked)
  console.log(
    `plan, ${name}: ${combinations} combinations, ${solved} solved, ${front.length} on the front, ${((performance.now() - start) / 1000).toFixed(1)} s`,
  )
}
