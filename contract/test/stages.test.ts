import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { chainDocumentSchema, modes, stageSchema } from '../src/index.ts'

const base = { id: 'a', name: 'A' }
const tuners = {
  given: { ...base, kind: 'tuner', method: 'given', lossDb: 0.3, residualSwr: 1.1, reachSwr: 3 },
  network: {
    ...base,
    kind: 'tuner',
    method: 'network',
    network: 'T',
    shuntAt: 'either',
    coilH: [1e-7, 28e-6],
    capacitorF: [15e-12, 250e-12],
    coilQ: 200,
    capacitorQ: 1000,
    dials: { c1: ['4', '', '7.5'] },
    tuneWindowW: [5, 20],
  },
  stepped: {
    ...base,
    kind: 'tuner',
    method: 'stepped',
    coilBits: 7,
    coilStepH: 1e-7,
    capacitorBits: 7,
    capacitorStepF: 1e-11,
    coilQ: 150,
    capacitorQ: 800,
    contentSwr: 1.5,
  },
} as const
const amplifier = {
  ...base,
  kind: 'amplifier',
  gainDb: 12,
  driveW: 40,
  fullW: 500,
  ceilings: { data: 300 },
  behaviour: 'levelled',
  foldback: [[1.5, 1]],
  tripSwr: 3,
  inputOhm: { rOhm: 62, xOhm: -8 },
  inputBands: [{ lowHz: 10e6, highHz: 15e6, rOhm: 95, xOhm: 35 }],
} as const
const measured = {
  ...base,
  kind: 'measured',
  frequencyHz: [1e6, 2e6],
  s: Array.from({ length: 16 }, () => 0.1),
} as const
const pad = { ...base, kind: 'pad', part: 'arrester', lossDb: 0.1 } as const

/** The first complaint, as a path and its words. */
const complaint = (stage: unknown): [string, string] | null => {
  const issue = stageSchema.safeParse(stage).error?.issues[0]
  return issue ? [issue.path.join('.'), issue.message] : null
}

describe('stages of every kind', () => {
  test.each(Object.entries({ ...tuners, amplifier, measured, pad }))('%s is valid', (_, stage) => {
    expect(complaint(stage)).toBeNull()
  })

  test('limits as the operator knows them belong to any of them', () => {
    const limits = { voltageRms: 500, averageW: 100, timeConstantS: 300, firingVoltageDc: 230 }
    for (const stage of [...Object.values(tuners), amplifier, measured, pad])
      expect(complaint({ ...stage, limits })).toBeNull()
    expect(complaint({ ...pad, limits: { voltageRms: -5 } })).toEqual([
      'limits.voltageRms',
      'Rated voltage must be between 1 and 100000 V.',
    ])
  })
})

describe('what cannot be is told where it is, with the cure', () => {
  test.each([
    [{ ...tuners.given, residualSwr: 0.5 }, 'residualSwr', /between 1 and 10/],
    [{ ...tuners.network, network: 'X' }, 'network', /./],
    [{ ...tuners.network, coilH: [2e-6, 1e-6] }, 'coilH.1', /largest inductance must be more/],
    [{ ...tuners.network, capacitorF: [1e-12, 1e-12] }, 'capacitorF.1', /largest capacitance/],
    [{ ...tuners.network, coilQ: 1 }, 'coilQ', /Coil Q must be between 5 and 2000/],
    [{ ...tuners.network, tuneWindowW: [20, 5] }, 'tuneWindowW.1', /largest tuning power/],
    [{ ...tuners.network, dials: { c1: ['1', '2', '3', '4'] } }, 'dials.c1', /./],
    [{ ...tuners.stepped, coilBits: 7.5 }, 'coilBits', /whole number/],
    [
      { ...tuners.stepped, coilBits: 14 },
      'coilBits',
      /number of coil relays must be between 1 and 10/,
    ],
    [{ ...amplifier, gainDb: 5 }, 'gainDb', /raise the gain or the drive/],
    [{ ...amplifier, ceilings: { shouting: 5 } }, 'ceilings', /shouting/],
    [{ ...amplifier, inputOhm: { rOhm: 0, xOhm: 0 } }, 'inputOhm.rOhm', /Input resistance/],
    [{ ...measured, s: [0.1] }, 's', /eight numbers a frequency/],
    [{ ...measured, frequencyHz: [2e6, 1e6] }, 'frequencyHz', /must rise/],
    [{ ...measured, s: [...measured.s.slice(1), 3] }, 's.15', /between -1.1 and 1.1/],
    [
      {
        ...pad,
        points: [
          [2e6, 0.1],
          [1e6, 0.2],
        ],
      },
      'points',
      /must rise/,
    ],
    [{ ...pad, points: [] }, 'points', /./],
  ] as [unknown, string, RegExp][])('%#: %s', (stage, path, words) => {
    const [where, message] = complaint(stage)!
    expect(where).toBe(path)
    expect(message).toMatch(words)
  })
})

describe('what a chain may say beside its stages', () => {
  const document = {
    version: 3,
    name: 'Chain',
    transmitter: {
      name: 'Petrel 125',
      ratedW: 125,
      bands: [{ lowHz: 50e6, highHz: 54e6, ratedW: 50 }],
      reduced: { on: true, powerW: 60 },
      builtInTuner: { reachSwr: 3, lossDb: 0.3 },
      supply: '13.8 V, old battery',
      behaviour: 'levelled',
      foldback: [],
    },
    stages: [amplifier, { ...tuners.network, id: 'b' }],
    load: { kind: 'fixed', name: 'Vee', rOhm: 50, xOhm: 0 },
    antennaGainDbi: 2.1,
    loadAverageW: 100,
    loadBurst: { watts: 300, minutes: 10 },
    ambientC: 35,
    licence: { kind: 'EIRP', watts: 400 },
    channels: [
      {
        id: 'x',
        frequencyHz: 7.1e6,
        mode: 'own',
        powerW: 100,
        meanToPeak: 0.4,
        keyDown: 0.6,
        longestOverS: 180,
      },
    ],
  }
  const wrong = (change: Record<string, unknown>): string =>
    chainDocumentSchema.safeParse({ ...document, ...change }).error!.issues[0]!.path.join('.')

  test('all of it comes back as it was', () => {
    expect(chainDocumentSchema.parse(document)).toEqual(document)
  })

  test.each([
    [{ ambientC: 200 }, 'ambientC'],
    [{ licence: { kind: 'TX', watts: 1 } }, 'licence.kind'],
    [{ loadBurst: { watts: 300, minutes: 0 } }, 'loadBurst.minutes'],
    [{ channels: [{ ...document.channels[0], meanToPeak: 2 }] }, 'channels.0.meanToPeak'],
    [{ channels: [{ ...document.channels[0], longestOverS: 0 }] }, 'channels.0.longestOverS'],
    [
      {
        transmitter: { ...document.transmitter, bands: [{ lowHz: 54e6, highHz: 50e6, ratedW: 1 }] },
      },
      'transmitter.bands.0.highHz',
    ],
    [
      { transmitter: { ...document.transmitter, reduced: { on: true, powerW: 0 } } },
      'transmitter.reduced.powerW',
    ],
  ])('%j', (change, path) => expect(wrong(change)).toBe(path))

  test('every mode is a mode, and nothing else is', () => {
    fc.assert(
      fc.property(fc.string(), (mode) => {
        const ok = chainDocumentSchema.safeParse({
          ...document,
          channels: [{ ...document.channels[0], mode }],
        }).success
        expect(ok).toBe((modes as readonly string[]).includes(mode))
      }),
    )
  })
})
