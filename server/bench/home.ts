/** Stations of our own with something hidden in them by the model’s own laws, and what was read there. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  type Case,
  type Cause,
  type Chain,
  type Channel,
  complex,
  hiddenStation,
  type HiddenStation,
  type Meter,
  pick,
  type Priors,
  type Random,
  seeded,
  simulateReadings,
  type Site,
  usualTolerances,
} from '@saltline/core'
import { openDatabase } from '../src/db/open.ts'
import * as demo from '../src/demo/merrowPoint.ts'
import { seedDemo } from '../src/demo/seed.ts'
import { chainOfDocument } from '../src/store/antennas.ts'
/** As the causes are drawn below: each kind as often, a radio that is low on one channel in two of five. */
const priors: Priors = {
  none: 1,
  transmitter: 0.6,
  transmitterOnChannel: 0.4,
  loss: 1,
  aged: 1,
  antenna: 1,
  antennaOnChannel: 0,
  meter: 1,
  averaging: 1,
  'common mode': 1,
  slip: 1,
}

/** Two meters of the kind many stations have, and one that shows peaks. */
export const instruments: Meter[] = [
  { kind: 'averaging', rangesW: [5, 20, 50, 200, 500], accuracy: 0.05, directivityDb: 28 },
  { kind: 'averaging', rangesW: [], accuracy: 0.05, accuracyOf: 'reading', directivityDb: 30 },
  { kind: 'peak', rangesW: [20, 200, 2000], accuracy: 0.07, divisions: 40, directivityDb: 25 },
]

export interface Station {
  chain: Chain
  channels: Channel[]
  /** Where its operators read: at the radio, on the way, at the antenna. */
  planes: number[]
}

async function stations(): Promise<Station[]> {
  const folder = mkdtempSync(join(tmpdir(), 'saltline-bench-'))
  const db = await openDatabase(join(folder, 'demo.sqlite'), { create: true })
  await seedDemo(db)
  const places: Record<string, number[]> = {
    'hf-long-run': [1, 5, 7],
    'vhf-mast': [1, 2, 5],
    'mf-hf-whip': [1, 2, 3],
  }
  const out: Station[] = []
  for (const { id, document } of demo.chains) {
    const planes = places[id]
    if (!planes) continue
    // Readings are taken on a steady carrier.
    const channels = document.channels.slice(0, 3).map(({ frequencyHz, powerW }) => ({
      frequencyHz,
      powerW,
      emission: { mode: 'FM' as const },
    }))
    out.push({ chain: await chainOfDocument(db, document), channels, planes })
  }
  db.close()
  rmSync(folder, { recursive: true })
  return out
}

const between = (random: Random, low: number, high: number) => low + (high - low) * random()

export type Kind = Cause['kind']
export const kinds: Kind[] = [
  'none',
  'transmitter',
  'loss',
  'aged',
  'antenna',
  'meter',
  'averaging',
  'common mode',
  'slip',
]

export function drawCause(kind: Kind, station: Station, sites: Site[], random: Random): Cause {
  const { stages } = station.chain
  switch (kind) {
    case 'transmitter':
      return {
        kind,
        db: -between(random, 1.2, 8),
        point: random() < 0.6 ? null : pick(random, sites).point,
      }
    case 'loss': {
      const stage = Math.floor(random() * stages.length)
      return { kind, from: stage, to: stage, db: between(random, 0.8, 6) }
    }
    case 'aged': {
      const lines = stages.flatMap((s, k) => (s.kind === 'line' && s.lengthM > 10 ? [k] : []))
      return { kind, stage: pick(random, lines), factor: between(random, 1.6, 3.5) }
    }
    case 'antenna': {
      const phase = 2 * Math.PI * random()
      const size = between(random, 0.2, 0.5)
      const toward = (r: number) => complex(r * Math.cos(phase), r * Math.sin(phase))
      return {
        kind,
        point: null,
        retuned: random() < 0.5,
        change: pick(random, [
          { kind: 'moved', share: between(random, 0.03, 0.1) * (random() < 0.5 ? -1 : 1) },
          { kind: 'other', by: toward(size) },
          { kind: 'broken', reflection: toward(0.95) },
        ] as const),
      }
    }
    case 'meter': {
      const instrument = pick(random, sites).instrument
      const db = between(random, 1.2, 3.5) * (random() < 0.5 ? -1 : 1)
      const scale = random() < 0.4
      return {
        kind,
        instrument,
        why: scale ? 'scale' : 'off',
        factor: scale ? pick(random, [0.1, 0.25, 0.4, 2.5, 4, 10]) : 10 ** (db / 10),
      }
    }
    case 'averaging':
      return { kind, instrument: 2 }
    case 'common mode':
      return { kind, rho: between(random, 0.12, 0.3) }
    case 'slip':
      return { kind, reading: Math.floor(random() * sites.length) }
    default:
      return { kind: 'none' }
  }
}

/** Whether an explanation names the injected cause: its kind, and its place. */
export function names(found: Cause, real: Cause): boolean {
  if (found.kind === 'loss' && real.kind === 'loss')
    return found.from <= real.to && found.to >= real.from
  if (found.kind === 'aged' && real.kind === 'aged') return found.stage === real.stage
  if (found.kind === 'transmitter' && real.kind === 'transmitter') return found.point === real.point
  if (found.kind === 'meter' && real.kind === 'meter') return found.instrument === real.instrument
  if (found.kind === 'slip' && real.kind === 'slip') return found.reading === real.reading
  return found.kind === real.kind
}

/** One station with something hidden in it, and what the program is told. */
export interface Asked {
  kind: string
  kase: Case
  names: (found: Cause) => boolean
  /** Of the same chain and channels, whose spread need not be drawn anew. */
  key: string
}

export const all = await stations()

export interface AskedHome extends Asked {
  cause: Cause
  hidden: () => HiddenStation
}

/** The causes take turns; all else is drawn. */
export function askHome(i: number, from: number): AskedHome {
  const random = seeded(1000 + from + i)
  const kind = kinds[i % kinds.length]!
  const station = { ...pick(random, all) }
  if (kind === 'averaging')
    station.channels = station.channels.map((c) => ({
      ...c,
      emission: { mode: 'voice-processed' as const },
    }))
  // One meter at every plane on every channel; at the radio a second one as well.
  const main = kind === 'averaging' ? 2 : Math.floor(random() * 2)
  const sites: Site[] = station.channels.flatMap((_, point) => [
    ...station.planes.map((plane) => ({ point, plane, instrument: main })),
    { point, plane: station.planes[0]!, instrument: main === 0 ? 1 : 0 },
  ])
  const cause = drawCause(kind, station, sites, random)
  const rest = {
    chain: station.chain,
    channels: station.channels,
    instruments,
    tolerances: usualTolerances,
    priors,
  }
  const seed = 5000 + 7 * from + i
  const readings = simulateReadings(rest, sites, cause, seed)
  return {
    kind,
    ...{ cause, hidden: () => hiddenStation(rest, [cause], seed) },
    kase: { ...rest, readings },
    names: (found) => names(found, cause),
    key: `home ${all.findIndex(({ chain }) => chain === station.chain)} ${kind === 'averaging'}`,
  }
}
