/**
 * Stations that the diagnosis was not made on: other cables, antennas, meters and faults than its own model has, drawn by
 * laws of their own. Nothing here is taken from `core/src/diagnosis` but the names of causes, in which an answer is judged.
 */
import {
  type Cause,
  type Channel,
  type Chain,
  cableClasses,
  complex,
  type Complex,
  impedanceOf,
  type Load,
  type Meter,
  type MeterReading,
  pick,
  type Random,
  reflectionAt,
  seeded,
  type Site,
  solveChain,
  type Stage,
} from '../src/index.ts'
import type { SeenSweep } from '../src/diagnosis/sweepEvidence.ts'
import { normal } from '../src/statistics/random.ts'

export interface Trial {
  chain: Chain
  channels: Channel[]
  instruments: Meter[]
  /** Where a meter can be put. */
  planes: number[]
  /** A first session. */
  readings: MeterReading[]
  /** One more reading, with chance of its own, at a share of the channel's power. */
  read: (site: Site, share?: number) => MeterReading
  /** From the place nearest to the radio behind the tuners; null where no line is behind one. */
  sweep: () => SeenSweep | null
  /** Whether a cause is (one of) the hidden ones. */
  names: ((found: Cause) => boolean)[]
  /** What is hidden, for tables. */
  hidden: string[]
  station: string
}

const hiddenKinds = [
  'none',
  'transmitter',
  'loss',
  'aged',
  'antenna',
  'meter',
  'averaging',
  'common mode',
  'slip',
] as const
export type HiddenKind = (typeof hiddenKinds)[number]
export const kindsAbroad: readonly HiddenKind[] = hiddenKinds

/** As often as in practice: rules of thumb of those who mend stations, not the priors of the program. */
const usualMix: Record<HiddenKind, number> = {
  none: 0.35,
  transmitter: 0.2,
  loss: 0.16,
  aged: 0.1,
  antenna: 0.09,
  meter: 0.04,
  averaging: 0.01,
  'common mode': 0.02,
  slip: 0.03,
}

/** A kind by the usual mix. */
export function drawKind(random: Random): HiddenKind {
  let left = random() * Object.values(usualMix).reduce((a, b) => a + b, 0)
  for (const kind of hiddenKinds) if ((left -= usualMix[kind]) < 0) return kind
  return 'none'
}

const between = (random: Random, low: number, high: number) => low + (high - low) * random()
const cable = (id: string) => cableClasses.find((one) => one.id === id)!
const line = (id: string, lengthM: number): Stage => ({
  kind: 'line',
  lengthM,
  cable: cable(id),
})
const pad = (lossDb: number): Stage => ({ kind: 'pad', lossDb })

interface Plan {
  name: string
  chain: Chain
  mhz: number[]
  powerW: number
}

const levelled = { behaviour: 'levelled' as const }
const radio = (kind: number): Chain['transmitter'] =>
  kind === 0
    ? {
        ...levelled,
        foldback: [
          [1, 1],
          [1.8, 1],
          [2.5, 0.6],
          [4, 0.3],
        ],
      }
    : kind === 1
      ? {
          ...levelled,
          foldback: [
            [1, 1],
            [3, 1],
            [5, 0.5],
          ],
        }
      : { behaviour: 'levelled', foldback: [] }

const plans: Plan[] = [
  {
    name: 'HF, tuner at the radio',
    chain: {
      transmitter: radio(0),
      stages: [
        line('pe-5', 1.5),
        { kind: 'tuner', method: 'given', lossDb: 0.25, residualSwr: 1.15 },
        line('pe-5', 2.5),
        pad(0.08),
        line('foam-10', 31),
        pad(0.12),
      ],
      load: { kind: 'resonator', resonanceHz: 7.1e6, rOhm: 62, q: 9 },
    },
    mhz: [6.98, 7.12, 7.2],
    powerW: 100,
  },
  {
    name: 'VHF, long mast run',
    chain: {
      transmitter: radio(1),
      stages: [line('pe-5', 2), pad(0.1), line('foam-13', 52), pad(0.06), line('pe-10', 3)],
      load: { kind: 'resonator', resonanceHz: 157e6, rOhm: 44, q: 5 },
    },
    mhz: [156.3, 156.8, 160.9],
    powerW: 25,
  },
  {
    name: 'HF, no tuner, two kinds of cable',
    chain: {
      transmitter: radio(0),
      stages: [line('pe-5', 9), pad(0.05), line('pe-10', 27), pad(0.2)],
      load: { kind: 'resonator', resonanceHz: 4.15e6, rOhm: 71, q: 12 },
    },
    mhz: [4.06, 4.146, 4.22],
    powerW: 125,
  },
  {
    name: 'relay tuner at a whip',
    chain: {
      transmitter: radio(1),
      stages: [
        line('pe-5', 3),
        pad(0.1),
        line('foam-7', 14),
        {
          kind: 'tuner',
          method: 'stepped',
          coilBits: 8,
          coilStepH: 0.08e-6,
          capacitorBits: 8,
          capacitorStepF: 12e-12,
          contentSwr: 1.5,
          coilQ: 160,
          coilQAtHz: 7e6,
          capacitorQ: 1500,
        } as Stage,
      ],
      load: { kind: 'resonator', resonanceHz: 7.6e6, rOhm: 38, q: 14 },
    },
    mhz: [6.224, 8.294, 12.353],
    powerW: 150,
  },
  {
    name: 'UHF, corrugated',
    chain: {
      transmitter: radio(2),
      stages: [line('foam-5', 1.5), pad(0.15), line('corrugated-16', 24), line('foam-7', 2)],
      load: { kind: 'resonator', resonanceHz: 433e6, rOhm: 56, q: 6 },
    },
    mhz: [430.5, 433, 438.2],
    powerW: 20,
  },
  {
    name: 'run of 75 Ω',
    chain: {
      transmitter: radio(0),
      stages: [
        line('pe-5', 4),
        pad(0.05),
        { kind: 'line', lengthM: 23, cable: { ...cable('foam-7'), z0Ohm: 75 } },
        pad(0.15),
      ],
      load: { kind: 'resonator', resonanceHz: 14.2e6, rOhm: 60, q: 7 },
    },
    mhz: [14.02, 14.2, 14.33],
    powerW: 100,
  },
]

/** What stands in a data sheet, and the law by which the meter really errs. */
interface Law {
  sheet: Meter
  /** Factor on what it shows. */
  error: (
    shownW: number,
    rangeW: number,
    at: { scale: number; time: number; random: Random },
  ) => number
}
const law = (sheet: Meter, error: Law['error']): Law => ({ sheet, error })
const laws: Law[] = [
  // Percent of full scale, mostly the same way at all readings.
  law(
    {
      kind: 'averaging',
      rangesW: [3, 15, 60, 300],
      accuracy: 0.06,
      divisions: 30,
      directivityDb: 24,
    },
    (shown, range, { scale, random }) =>
      1 + (range / Math.max(shown, range / 50)) * 0.06 * (0.6 * scale + 0.25 * (2 * random() - 1)),
  ),
  // Percent of the reading, worse in the lower fifth of a range.
  law(
    {
      kind: 'averaging',
      rangesW: [30, 300],
      accuracy: 0.05,
      accuracyOf: 'reading',
      divisions: 30,
      directivityDb: 30,
    },
    (shown, range, { scale, random }) =>
      1 + (shown < range / 5 ? 2.5 : 1) * 0.05 * (0.5 * scale + 0.3 * normal(random) * 0.7),
  ),
  // A scale that drifts while it warms up.
  law(
    { kind: 'averaging', rangesW: [], accuracy: 0.07, accuracyOf: 'reading', directivityDb: 26 },
    (_shown, _range, { scale, time, random }) =>
      1 + 0.07 * (0.7 * scale * (0.3 + 0.9 * time) + 0.15 * normal(random)),
  ),
  // A peak meter of the shop kind.
  law(
    { kind: 'peak', rangesW: [5, 20, 200, 2000], accuracy: 0.08, divisions: 40, directivityDb: 22 },
    (shown, range, { scale, random }) =>
      1 + (range / Math.max(shown, range / 40)) * 0.08 * (0.45 * scale + 0.3 * (2 * random() - 1)),
  ),
]

/** The station as it is: nothing as written down, a few things far from it. */
function realStation(plan: Plan, random: Random) {
  const wide = () => (random() < 0.06 ? 2.5 : 1)
  const age = 1 + 0.04 * random()
  const stages = plan.chain.stages.map((stage): Stage => {
    if (stage.kind === 'line')
      return {
        ...stage,
        lengthM: stage.lengthM * (1 + 0.012 * wide() * normal(random)),
        ageing: { factor: Math.max(0.85, age * (1 + 0.035 * wide() * normal(random))) },
      }
    if (stage.kind === 'pad')
      return { ...stage, lossDb: stage.lossDb * Math.exp(0.25 * wide() * normal(random)) }
    return stage
  })
  const low = 1 + 0.035 * wide() * normal(random)
  const powers = plan.mhz.map(() => plan.powerW * low * (1 + 0.015 * normal(random)))
  const own = plan.chain.load as Extract<Load, { kind: 'resonator' }>
  const load: typeof own = {
    ...own,
    resonanceHz: own.resonanceHz * (1 + 0.0012 * wide() * normal(random)),
    rOhm: own.rOhm * Math.exp(0.03 * wide() * normal(random)),
    q: own.q * Math.exp(0.04 * normal(random)),
  }
  return { stages, powers, load }
}

/** A hidden fault: what it does, and by which names it is found. */
interface Fault {
  kind: HiddenKind
  stages?: (stages: { stage: Stage; place: number }[], hz: number, time: number) => void
  load?: (load: Load, rho: Complex, hz: number, point: number) => Load
  power?: (point: number) => number
  shown?: (instrument: number, point: number) => number
  rho?: (random: Random) => number
  /** Reading that is written down wrong, and by what factor. */
  slip?: { reading: number; factor: number; what: 'forward' | 'both' }
  names: (found: Cause) => boolean
  what: string
}

const covers = (found: Cause, place: number): boolean =>
  found.kind === 'loss' && found.from <= place && found.to >= place
const fixed = (z: Complex): Load => ({ kind: 'fixed', rOhm: Math.max(0.1, z.re), xOhm: z.im })

/** Something in the way at a place, on either side of the stage. */
function inTheWay(
  place: number,
  make: (hz: number, time: number) => Stage | null,
  front: boolean,
): NonNullable<Fault['stages']> {
  return (stages, hz, time) => {
    const stage = make(hz, time)
    if (!stage) return
    const at = stages.findIndex((own) => own.place === place)
    stages.splice(front ? at : at + 1, 0, { stage, place: front ? -1 : place + 0.5 })
  }
}

function drawFault(kind: HiddenKind, plan: Plan, sites: readonly Site[], random: Random): Fault {
  const count = plan.chain.stages.length
  const place = Math.floor(random() * count)
  const db = between(random, 0.8, 5)
  const first = plan.mhz[0]! * 1e6
  switch (kind) {
    case 'none':
      return { kind, names: (found) => found.kind === 'none', what: 'none' }
    case 'transmitter': {
      const point = random() < 0.7 ? null : pick(random, sites).point
      const factor = 10 ** (-between(random, 1, 7) / 10)
      return {
        kind,
        power: (own) => (point === null || own === point ? factor : 1),
        names: (found) =>
          found.kind === 'transmitter' &&
          (found.point === point || new Set(sites.map((s) => s.point)).size === 1),
        what: point === null ? 'radio low' : 'radio low on one channel',
      }
    }
    case 'loss': {
      const front = random() < 0.5
      const law = random()
      const ohm = 100 * (10 ** (db / 20) - 1)
      const lines = plan.chain.stages.flatMap((s, k) => (s.kind === 'line' ? [k] : []))
      if (law < 0.12 && plan.mhz[0]! > 100) {
        // Half open: a small capacitor in the way.
        const reactance = between(random, 50, 140)
        return {
          kind,
          stages: inTheWay(
            place,
            () => ({ kind: 'series', rOhm: 6, xOhm: -reactance, atHz: first }),
            front,
          ),
          names: (found) => covers(found, place),
          what: 'connector half open',
        }
      }
      if (law < 0.24) {
        // Water at one place of a cable: much loss in little length, of another impedance.
        const wet = pick(random, lines)
        const part = between(random, 0.1, 0.9)
        return {
          kind,
          stages: (stages) => {
            const at = stages.findIndex((own) => own.place === wet)
            const own = stages[at]!.stage as Extract<Stage, { kind: 'line' }>
            const dry = (share: number): Stage => ({ ...own, lengthM: own.lengthM * share })
            stages.splice(
              at,
              1,
              { stage: dry(part), place: -1 },
              {
                stage: { kind: 'line', lengthM: 0.4, cable: { ...own.cable, z0Ohm: 38 } },
                place: -1,
              },
              { stage: pad(db), place: -1 },
              { stage: dry(1 - part), place: wet },
            )
          },
          names: (found) => covers(found, wet) || (found.kind === 'aged' && found.stage === wet),
          what: 'water at one place',
        }
      }
      if (law < 0.3) {
        return {
          kind,
          stages: inTheWay(
            place,
            (_hz, time) => (Math.sin(37 * time) > -0.4 ? pad(db) : null),
            front,
          ),
          names: (found) => covers(found, place),
          what: 'loss that comes and goes',
        }
      }
      if (law < 0.75) {
        // A joint of high resistance: the same at all frequencies, or growing as the skin gets thinner.
        const skin = random() < 0.5
        return {
          kind,
          stages: inTheWay(
            place,
            (hz) => ({ kind: 'series', rOhm: ohm * (skin ? Math.sqrt(hz / first) : 1), xOhm: 0 }),
            front,
          ),
          names: (found) => covers(found, place),
          what: 'resistance of a joint',
        }
      }
      return {
        kind,
        stages: inTheWay(place, () => pad(db), front),
        names: (found) => covers(found, place),
        what: 'matched loss',
      }
    }
    case 'aged': {
      const lines = plan.chain.stages.flatMap((s, k) =>
        s.kind === 'line' && s.lengthM > 10 ? [k] : [],
      )
      const own = pick(random, lines)
      const factor = between(random, 1.5, 3.2)
      const power = between(random, 0, 0.6)
      return {
        kind,
        stages: (stages, hz) => {
          for (const each of stages)
            if (each.place === own && each.stage.kind === 'line')
              each.stage = {
                ...each.stage,
                // What ages the dielectric grows faster with frequency than what corrodes the braid.
                ageing: { factor: 1 + (factor - 1) * (hz / first) ** power },
              }
        },
        names: (found) => found.kind === 'aged' && found.stage === own,
        what: 'aged cable',
      }
    }
    case 'antenna': {
      const way = random()
      const sign = random() < 0.5 ? -1 : 1
      const share = between(random, 0.02, 0.08) * sign
      const factor = random() < 0.5 ? between(random, 0.3, 0.55) : between(random, 1.9, 3.5)
      const open = random() < 0.5
      const x = between(random, 20, 300) * sign
      return {
        kind,
        load: (load, _rho, hz) => {
          const own = load as Extract<Load, { kind: 'resonator' }>
          if (way < 0.4) return { ...own, resonanceHz: own.resonanceHz * (1 + share) }
          if (way < 0.75) return { ...own, rOhm: own.rOhm * factor, q: own.q / Math.sqrt(factor) }
          return fixed(complex(open ? 900 : 3, open ? x * (hz / first) : x / 10))
        },
        names: (found) => found.kind === 'antenna',
        what: way < 0.4 ? 'resonance moved' : way < 0.75 ? 'resistance changed' : 'element gone',
      }
    }
    case 'meter': {
      const instrument = pick(random, sites).instrument
      const scale = random() < 0.35
      const factor = scale
        ? pick(random, [0.1, 0.2, 0.5, 2, 5, 10])
        : 10 ** ((between(random, 1, 3) * (random() < 0.5 ? -1 : 1)) / 10)
      return {
        kind,
        shown: (own) => (own === instrument ? factor : 1),
        names: (found) => found.kind === 'meter' && found.instrument === instrument,
        what: scale ? 'wrong scale' : 'meter off',
      }
    }
    case 'averaging':
      return {
        kind,
        shown: (own) => (own === 3 ? 0.45 : 1),
        names: (found) => found.kind === 'averaging',
        what: 'peak meter that averages',
      }
    case 'common mode': {
      const size = between(random, 0.12, 0.3)
      return {
        kind,
        rho: (chance) => size * Math.cos(2 * Math.PI * chance()) * Math.SQRT2,
        names: (found) => found.kind === 'common mode',
        what: 'braid current',
      }
    }
    case 'slip': {
      const reading = Math.floor(random() * sites.length)
      const factor = pick(random, [0.1, 0.2, 0.4, 0.6, 1.6, 2.5, 5])
      return {
        kind,
        slip: { reading, factor, what: random() < 0.5 ? 'both' : 'forward' },
        names: (found) => found.kind === 'slip' && found.reading === reading,
        what: 'slip of the pen',
      }
    }
  }
}

/** The plane in front of a stage lies in front of what was put before it; the last one is the antenna's. */
const beginOf = (placed: readonly { place: number }[], plane: number): number =>
  plane === 0 ? 0 : placed.findLastIndex(({ place }) => place >= 0 && place < plane) + 1

/**
 * What an analyser of the shop kind shows of a reflection: its leak turns with frequency, its source match is poor, its gain a
 * little off, and it rounds to four places.
 */
function analyser(random: Random): (rho: Complex, hz: number) => Complex {
  const [leak, match] = [0.008 + 0.006 * random(), 0.02 * random()]
  const [turn, other] = [2 * Math.PI * random(), 2 * Math.PI * random()]
  const delayS = 3e-9 * random()
  const gain = 1 + 0.006 * normal(random)
  const round = (value: number) => Math.round((value + 0.0008 * normal(random)) * 1e4) / 1e4
  return ({ re, im }, hz) => {
    const phase = turn + 2 * Math.PI * hz * delayS
    const [twiceRe, twiceIm] = [re * re - im * im, 2 * re * im]
    const [cos, sin] = [match * Math.cos(other), match * Math.sin(other)]
    return complex(
      round(gain * re + leak * Math.cos(phase) + cos * twiceRe - sin * twiceIm),
      round(gain * im + leak * Math.sin(phase) + cos * twiceIm + sin * twiceRe),
    )
  }
}

/** @param kinds what is hidden; two at once where two are given */
export function trialAbroad(kinds: readonly HiddenKind[], seed: number): Trial {
  const random = seeded(seed)
  const plan = pick(random, plans)
  const { chain } = plan
  const averaging = kinds.includes('averaging')
  const channels: Channel[] = plan.mhz.map((mhz) => ({
    frequencyHz: mhz * 1e6,
    powerW: plan.powerW,
    emission: { mode: averaging ? 'voice-processed' : 'FM' },
  }))
  const main = averaging ? 3 : Math.floor(random() * 3)
  const second = random() < 0.6 ? (main + 1) % 3 : null
  const planes = Array.from({ length: chain.stages.length + 1 }, (_, plane) => plane)
    // Behind a tuner at the antenna no meter for 50 Ω says anything.
    .filter(
      (plane) =>
        !chain.stages.slice(0, plane).some((s) => s.kind === 'tuner' && s.method === 'stepped'),
    )
  const one = random() < 0.1
  const some = planes.filter((plane) => plane > 0 && random() < 0.5).slice(0, 3)
  const read = one ? [pick(random, planes)] : [...new Set([planes[1]!, ...some, planes.at(-1)!])]
  const used = channels.map((_, point) => point).slice(0, random() < 0.75 ? 3 : 1)
  const sites: Site[] = used.flatMap((point) => [
    ...read.map((plane) => ({ point, plane, instrument: main })),
    ...(second === null ? [] : [{ point, plane: read[0]!, instrument: second }]),
  ])
  const real = realStation(plan, random)
  const faults = kinds.map((kind) => drawFault(kind, plan, sites, random))
  const scales = laws.map(() => Math.max(-1, Math.min(1, 0.6 * normal(random))))
  const chance = seeded(seed ^ 0x5a17)
  let taken = 0
  const solved = new Map<string, { forwardW: number; rho: number }[]>()
  const stationAt = (hz: number, point: number, time: number) => {
    const placed = real.stages.map((stage, place) => ({ stage, place }))
    for (const fault of faults) fault.stages?.(placed, hz, time)
    let load: Load = real.load
    for (const fault of faults)
      load = fault.load?.(load, reflectionAt(load, hz, 50), hz, point) ?? load
    return { placed, load }
  }
  const waves = (point: number, time: number) => {
    const key = `${point} ${faults.some(({ what }) => what === 'loss that comes and goes') ? time : ''}`
    const before = solved.get(key)
    if (before) return before
    const hz = channels[point]!.frequencyHz
    const { placed, load } = stationAt(hz, point, time)
    const powerW = faults.reduce(
      (all, fault) => all * (fault.power?.(point) ?? 1),
      real.powers[point]!,
    )
    const z = impedanceOf(reflectionAt(load, hz, 50), 50)
    const { planes: all } = solveChain(
      { ...chain, stages: placed.map(({ stage }) => stage), load: fixed(z) },
      { frequencyHz: hz, powerW },
    )
    const out = Array.from({ length: chain.stages.length + 1 }, (_, plane) => {
      const { forwardW, reflectedW } = all[beginOf(placed, plane)]!
      return { forwardW, rho: Math.min(0.999, Math.sqrt(reflectedW / forwardW)) }
    })
    solved.set(key, out)
    return out
  }
  const last = chain.stages.findLastIndex(({ kind }) => kind === 'tuner')
  const plane = last + 1
  const sweep = (): SeenSweep | null => {
    if (!chain.stages.slice(plane).some(({ kind }) => kind === 'line')) return null
    const mhz = [Math.min(...plan.mhz) * 0.7, Math.max(...plan.mhz) * 1.5]
    const frequencyHz = Array.from(
      { length: 201 },
      (_, k) => (mhz[0]! + ((mhz[1]! - mhz[0]!) * k) / 200) * 1e6,
    )
    const show = analyser(seeded(seed ^ 0x3a11))
    const seen = frequencyHz.map((hz) => {
      const { placed, load } = stationAt(hz, 0, 0.5)
      const stages = placed.slice(beginOf(placed, plane)).map(({ stage }) => stage)
      const z = impedanceOf(reflectionAt(load, hz, 50), 50)
      const { planes: all } = solveChain(
        { ...chain, stages, load: fixed(z) },
        { frequencyHz: hz, powerW: 1 },
      )
      return show(all[0]!.reflection, hz)
    })
    return {
      ...{ plane, farEnd: 'antenna', frequencyHz },
      ...{ re: seen.map(({ re }) => re), im: seen.map(({ im }) => im) },
    }
  }
  const take = (site: Site, share = 1): MeterReading => {
    const index = taken++
    const time = (index % 17) / 17
    const { sheet, error } = laws[site.instrument]!
    const { forwardW, rho } = waves(site.point, time)[site.plane]!
    const factor = faults.reduce(
      (all, fault) => all * (fault.shown?.(site.instrument, site.point) ?? 1),
      1,
    )
    const mean = sheet.kind === 'averaging' && averaging ? 0.45 : 1
    const leak = 10 ** (-(sheet.directivityDb ?? 30) / 20)
    let seen = Math.abs(rho + leak * between(chance, -0.8, 0.8))
    for (const fault of faults) seen = Math.abs(seen + (fault.rho?.(chance) ?? 0))
    seen = Math.min(0.995, seen)
    const show = (watts: number, rangeW: number) => {
      const shown =
        watts * error(watts, rangeW, { scale: scales[site.instrument]!, time, random: chance })
      if (!sheet.divisions) return Math.max(0, Number(shown.toPrecision(3)))
      const mark = rangeW / sheet.divisions
      // Rounded to the half mark; one in thirty is a whole mark off.
      const off = chance() < 1 / 30 ? (chance() < 0.5 ? mark : -mark) : 0
      return Math.max(0, Math.round((shown + off) / (mark / 2)) * (mark / 2))
    }
    const rangeOf = (watts: number) =>
      sheet.rangesW.find((full) => full >= watts) ?? sheet.rangesW.at(-1) ?? watts
    const there = forwardW * share * factor * mean
    const rangeW = rangeOf(there)
    let forward = show(there, rangeW)
    let back = show(there * seen * seen, rangeOf(there * seen * seen))
    for (const { slip } of faults)
      if (slip?.reading === index) {
        forward *= slip.factor
        if (slip.what === 'both') back *= slip.factor
      }
    back = Math.min(back, forward)
    return {
      ...site,
      forwardW: forward,
      reflectedW: back,
      ...(sheet.rangesW.length > 0 && { rangeW }),
    }
  }
  return {
    chain,
    channels,
    instruments: laws.map(({ sheet }) => sheet),
    planes,
    readings: sites.map((site) => take(site)),
    read: take,
    sweep,
    names: faults.map(({ names }) => names),
    hidden: faults.map(({ what }) => what),
    station: plan.name,
  }
}
