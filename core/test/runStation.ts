/** Random stations for run sheets: amplifiers, all tuners, ratings, windows; and how the real one happens to stand. */
import { cableClasses, type RatedChain, type RunChannel, type RunStation } from '../src/index.ts'
import { seeded } from '../src/statistics/random.ts'

export type Stage = RatedChain['stages'][number]

/** Chance, in the words of a generator. */
export function chance(seed: number) {
  const random = seeded(seed)
  const between = (low: number, high: number) => low + (high - low) * random()
  const log = (low: number, high: number) => low * (high / low) ** random()
  const one = <T>(items: readonly T[]): T => items[Math.floor(random() * items.length)]!
  const maybe = (share: number) => random() < share
  return { between, log, one, maybe }
}
export type Chance = ReturnType<typeof chance>

const tunerOf = ({ one, between, log, maybe }: Chance): Stage => {
  const base = {
    kind: 'tuner' as const,
    ...(maybe(0.4) && { ratedW: log(30, 1500) }),
    ...(maybe(0.3) && { limits: { voltageRms: log(500, 4000) } }),
    bypassed: maybe(0.15),
  }
  const quality = { coilQ: log(60, 300), capacitorQ: log(300, 2000) }
  const method = one(['network', 'network', 'stepped', 'given'] as const)
  if (method === 'given')
    return {
      ...base,
      method,
      lossDb: between(0, 1.5),
      residualSwr: between(1, 1.5),
      reachSwr: one([3, 10, undefined]),
    }
  if (method === 'stepped')
    return {
      ...base,
      method,
      ...quality,
      coilBits: one([4, 5, 6]),
      coilStepH: log(0.03e-6, 0.3e-6),
      capacitorBits: one([4, 5, 6]),
      capacitorStepF: log(3e-12, 30e-12),
      contentSwr: between(1.1, 1.5),
    }
  return {
    ...base,
    method,
    ...quality,
    automatic: maybe(0.4),
    network: one(['T', 'pi', 'L-low-pass', 'L-high-pass'] as const),
    shuntAt: 'either',
    coilH: [log(0.05e-6, 0.5e-6), log(5e-6, 40e-6)],
    capacitorF: [log(5e-12, 30e-12), log(150e-12, 1500e-12)],
  }
}

const lineOf = ({ one, log, maybe }: Chance, most: number): Stage => {
  const cable = one(cableClasses)
  return {
    kind: 'line',
    lengthM: log(0.3, most),
    cable: { ...cable, gearId: cable.id } as Extract<Stage, { kind: 'line' }>['cable'],
    ...(maybe(0.3) && { limits: { timeConstantS: log(20, 600) } }),
    ...(maybe(0.15) && { limits: { averageW: log(20, 500), timeConstantS: log(20, 600) } }),
    ...(maybe(0.1) && { limits: { voltageRms: log(60, 600) } }),
  }
}

const amplifierOf = ({ one, between, log, maybe }: Chance, powerW: number): Stage => {
  const driveW = powerW * log(0.1, 1.5)
  const gainDb = between(6, 16)
  return {
    kind: 'amplifier',
    gainDb,
    driveW,
    fullW: driveW * 10 ** (gainDb / 10) * between(0.6, 0.99),
    ...(maybe(0.6) && {
      ceilings: Object.fromEntries(
        (['key-down', 'data', 'FM'] as const)
          .filter(() => maybe(0.5))
          .map((mode) => [mode, driveW * 10 ** (gainDb / 10) * between(0.2, 0.6)]),
      ),
    }),
    behaviour: one(['levelled', 'peaked'] as const),
    foldback: one([
      [],
      [
        [1.5, 1],
        [3, 0.4],
      ] as [number, number][],
    ]),
    ...(maybe(0.2) && { tripSwr: between(2, 5) }),
    inputOhm: { rOhm: log(20, 120), xOhm: between(-20, 20) },
    bypassed: maybe(0.15),
  }
}

const smallPart = ({ one, between, log, maybe }: Chance): Stage =>
  one<() => Stage>([
    () => ({
      kind: 'pad',
      lossDb: between(0, 0.4),
      ...(maybe(0.5) && { limits: { firingVoltageDc: log(90, 600) } }),
    }),
    () => ({ kind: 'pad', part: 'meter', lossDb: 0.05 }) as Stage,
    () => ({
      kind: 'pad',
      lossDb: between(0, 0.4),
      limits: { averageW: log(20, 600), ...(maybe(0.5) && { timeConstantS: log(10, 300) }) },
    }),
    () => ({
      kind: 'transformer',
      ratio: one([1, 4, 0.25]),
      lossDb: between(0, 0.3),
      atHz: 7e6,
      limits: { averageW: log(50, 800) },
    }),
  ])()

/** A station, and how it really stands when a run begins. */
export interface DrawnStation {
  station: RunStation
  /** Phase of the load, rad, where it is not known. */
  phaseRad: number
}

/** The same seed gives the same station. */
export function drawnStation(seed: number): DrawnStation {
  const own = chance(seed)
  const { between, log, one, maybe } = own
  const powerW = log(3, 400)
  const stages: Stage[] = [
    lineOf(own, 3),
    ...(maybe(0.03) ? [tunerOf(own)] : []),
    ...(maybe(0.45) ? [amplifierOf(own, powerW), lineOf(own, 3)] : []),
    ...(maybe(0.5) ? [smallPart(own)] : []),
    ...(maybe(0.7) ? [tunerOf(own)] : []),
    ...(maybe(0.9) ? [lineOf(own, 60)] : []),
    ...(maybe(0.3) ? [smallPart(own)] : []),
  ]
  const count = one([1, 2, 3, 6])
  const top = one([8e6, 30e6, 60e6])
  const channels = Array.from({ length: count }, (_, i): RunChannel => {
    const mode = one(['voice-plain', 'FM', 'data', 'CW', 'AM'] as const)
    const ratedW = powerW * one([1, 1, 1.5])
    return {
      id: `c${i}`,
      name: `channel ${i}`,
      frequencyHz: log(1.8e6, top),
      mode,
      powerW: powerW * one([1, 1, 0.5]),
      around: {
        emission: { mode },
        ambientC: one([15, 25, 40, 55]),
        ratedW,
        ...(maybe(0.2) && {
          licence: { kind: one(['PEP', 'EIRP'] as const), watts: log(10, 1500) },
        }),
        ...(maybe(0.2) && { loadAverageW: log(10, 500) }),
      },
    }
  })
  const low = powerW * between(0.01, 0.2)
  return {
    phaseRad: between(0, 2 * Math.PI),
    station: {
      chain: {
        transmitter: {
          behaviour: maybe(0.85) ? 'levelled' : 'peaked',
          foldback: one([
            [],
            [
              [1.5, 1],
              [3, 0.5],
              [10, 0.1],
            ] as [number, number][],
          ]),
        },
        stages,
        load: maybe(0.05)
          ? { kind: 'swr', swr: log(1.1, 8) }
          : maybe(0.5)
            ? { kind: 'fixed', rOhm: log(5, 800), xOhm: between(-400, 400) }
            : {
                kind: 'resonator',
                resonanceHz: log(1.8e6, top),
                rOhm: log(20, 120),
                q: log(4, 20),
              },
      },
      channels,
      tuner: {
        ...(maybe(0.6) && { tuneWindowW: [low, low * log(1.5, 6)] as [number, number] }),
        ...(maybe(0.5) && { tuneTimeS: between(2, 20) }),
        ...stages.flatMap((s) => (s.kind === 'tuner' && s.ratedW ? [{ ratedW: s.ratedW }] : []))[0],
      },
      ...(maybe(0.6) && {
        dummy: {
          continuousW: log(20, 300),
          burst: { watts: log(320, 2000), minutes: between(0.5, 10) },
        },
      }),
      ...(maybe(0.3) && { loadBurst: { watts: log(520, 2000), minutes: between(0.5, 10) } }),
    },
  }
}
