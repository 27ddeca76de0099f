/**
 * What happened at Merrow Point from spring 2024 to autumn 2026, as its log tells it. Readings are simulated
 * from the station's own chains with the faults of the story in them.
 */
import {
  type DutyBody,
  type EventBody,
  type InstrumentDocument,
  type LineSweepFile,
  newId,
  type ReadingBody,
} from '@saltline/contract'
import {
  type Case,
  type Cause,
  type Channel,
  expectedSweep,
  frequencyGrid,
  pieceAlone,
  seeded,
  simulateReadings,
  usualTolerances,
  writeTouchstone,
} from '@saltline/core'
import type { Database } from '../db/open.ts'
import { chainOfDocument } from '../store/antennas.ts'
import { readChain } from '../store/chains.ts'
import { addDuty, keepMark } from '../store/duties.ts'
import { addEvent } from '../store/events.ts'
import { keepLineSweep } from '../store/lineSweeps.ts'
import { addReadings } from '../store/readings.ts'
import { stationId } from './merrowPoint.ts'

export const instruments: { id: string; document: InstrumentDocument }[] = [
  {
    id: 'heron',
    document: {
      name: 'Heron',
      type: 'through-line',
      kind: 'averaging',
      rangesW: [5, 20, 50, 200, 500],
      accuracy: 0.05,
      divisions: 50,
      directivityDb: 28,
      checkedOn: '2025-09-20',
      note: 'Plug-in elements in the lid. Reads the mean.',
    },
  },
  {
    id: 'skua',
    document: {
      name: 'Skua',
      type: 'power meter',
      kind: 'peak',
      rangesW: [],
      accuracy: 0.03,
      accuracyOf: 'reading',
      directivityDb: 32,
      checkedOn: '2026-03-14',
    },
  },
  {
    id: 'tern',
    document: {
      name: 'Tern',
      type: 'analyser',
      kind: 'averaging',
      rangesW: [],
      accuracy: 0.02,
      accuracyOf: 'reading',
      directivityDb: 40,
      checkedOn: '2026-03-14',
      note: 'One port. Calibrate at the end of the lead that is used.',
    },
  },
  {
    id: 'coble',
    document: {
      name: 'Coble load',
      type: 'dummy load',
      kind: 'averaging',
      rangesW: [],
      accuracy: 0.02,
      accuracyOf: 'reading',
      load: { continuousW: 120, burst: { watts: 300, minutes: 10 } },
      note: '50 Ω in oil, 300 W for ten minutes.',
    },
  },
]

interface Account {
  chainId: string
  channelIds: string[]
  /** Stages in front of which it is read. */
  places: string[]
  instrument: string
  seed: number
  /** What is wrong in a month, by index of the stages. */
  causeIn: (month: number, stageIndex: (id: string) => number) => Cause
}

const FIRST = Date.UTC(2024, 3, 10, 9)
const MONTHS = 32
/** January 2026 in months from the first. */
const STORM = 21
const none: Cause = { kind: 'none' }

const accounts: Account[] = [
  {
    chainId: 'vhf-mast',
    channelIds: ['c1', 'c2', 'c3'],
    places: ['patch', 'mast', 'joint'],
    instrument: 'skua',
    seed: 16,
    // Water found its way in through the top of the mast run in the storm.
    causeIn: (month, at) =>
      month < STORM
        ? none
        : { kind: 'aged', stage: at('mast'), factor: 1.2 + 0.003 * (month - STORM) },
  },
  {
    chainId: 'hf-long-run',
    channelIds: ['c4', 'c8', 'c12'],
    places: ['meter', 'duct', 'choke'],
    instrument: 'skua',
    seed: 9,
    // Somebody had left the radio on its reduced-power setting.
    causeIn: (month) =>
      month >= 18 && month <= 19 ? { kind: 'transmitter', db: -3, point: null } : none,
  },
  {
    chainId: 'mf-hf-whip',
    channelIds: ['c4', 'c6'],
    places: ['patch', 'wall', 'base'],
    instrument: 'heron',
    seed: 12,
    causeIn: (month, at) =>
      month < MONTHS - 1 ? none : { kind: 'loss', from: at('wall'), to: at('wall'), db: 2.1 },
  },
]

const events: EventBody[] = [
  { chainId: 'vhf-mast', on: '2025-05-17', text: 'Joint at the mast head made anew' },
  { chainId: 'vhf-mast', on: '2026-01-14', text: 'Storm, mast head under spray' },
  {
    chainId: 'hf-long-run',
    on: '2025-12-02',
    text: 'Reduced-power setting found on, switched off',
  },
]

const weather = [
  'frost',
  'fog',
  'rain',
  'dry',
  'dry',
  'dry',
  'dry',
  'thunder about',
  'rain',
  'gale',
  'fog',
  'rain',
]
const watch = ['first watch', 'second watch']

const yearly = { months: 12, afterEvent: null, thingId: null, note: '' } as const

/** What the operators of the demo station look after, and when they did. */
const duties: readonly { body: DutyBody; done?: readonly string[] }[] = [
  {
    body: {
      ...yearly,
      ...{ title: 'Readings of the mast run', chainId: 'vhf-mast', task: { kind: 'reading' } },
      from: '2024-04-18',
    },
  },
  {
    body: {
      ...yearly,
      ...{ title: 'Look after a storm', chainId: 'vhf-mast', from: '2024-04-18' },
      ...{ task: { kind: 'sheet', sheetId: 'after-storm' }, months: null, afterEvent: 'storm' },
      ...{ shipped: 'after-storm vhf-mast' },
    },
  },
  {
    body: {
      ...yearly,
      title: 'Arrester and earth: tight, dry, not blackened',
      ...{ chainId: 'hf-long-run', task: { kind: 'plain' }, from: '2024-05-02' },
      shipped: 'arrester hf-long-run',
    },
    done: ['2024-05-04', '2025-05-10'],
  },
  {
    body: {
      ...yearly,
      ...{ title: 'Meter Skua against Heron', chainId: null, from: '2026-09-01' },
      task: { kind: 'bench', worksheet: 'two-meters' },
      shipped: 'two-meters',
    },
  },
]

/** Fills the log of the demo station. */
export async function tellStory(db: Database): Promise<void> {
  for (const account of accounts)
    await addReadings(db, account.chainId, await readingsOf(db, account))
  for (const [i, event] of events.entries()) await addEvent(db, event, `demo-event-${i + 1}`)
  for (const { body, done = [] } of duties) {
    const id = await addDuty(db, stationId, body)
    for (const on of done) await keepMark(db, id, newId(), { kind: 'done', on, reason: '' })
  }
  await sweepTheLine(db)
}

/** An analyser behind the tuner, once a year: the antenna sinks, and in the last one a joint is bad. */
const swept = [
  { id: 'demo-sweep-1', readAt: '2024-04-18T08:30:00.000Z', lower: 0, jointOhm: 0 },
  { id: 'demo-sweep-2', readAt: '2025-04-20T09:10:00.000Z', lower: 0.002, jointOhm: 0 },
  { id: 'demo-sweep-3', readAt: '2026-04-19T08:45:00.000Z', lower: 0.0045, jointOhm: 0 },
  { id: 'demo-sweep-4', readAt: '2026-10-11T10:20:00.000Z', lower: 0.0065, jointOhm: 9 },
] as const
const SWEPT_CHAIN = 'hf-long-run'

/** The cable in the duct by itself, its far end open: when it was new, and after two years. */
const sweptAlone = [
  { id: 'demo-sweep-5', readAt: '2024-04-18T07:40:00.000Z', factor: 1 },
  { id: 'demo-sweep-6', readAt: '2026-04-19T09:30:00.000Z', factor: 1.06 },
] as const

async function sweepTheLine(db: Database): Promise<void> {
  const { document } = await readChain(db, SWEPT_CHAIN)
  const chain = await chainOfDocument(db, document)
  const keep = (
    id: string,
    of: Pick<LineSweepFile, 'before' | 'alone' | 'farEnd' | 'readAt' | 'name'>,
    { frequencyHz, re, im }: ReturnType<typeof expectedSweep>,
  ) => {
    const random = seeded(id.charCodeAt(id.length - 1))
    const noisy = (part: Float64Array) => part.map((value) => value + 0.004 * (random() - 0.5))
    const touchstone = writeTouchstone({
      ...{ referenceOhm: 50, frequencyHz, re: noisy(re), im: noisy(im), comments: [] },
    })
    const by = { instrument: 'Sandpiper', by: 'first watch', weather: 'dry', note: '' }
    return keepLineSweep(db, SWEPT_CHAIN, { ...of, ...by, touchstone }, id)
  }
  const { load } = chain
  if (load.kind !== 'sweep') return
  const from = document.stages.findIndex(({ id }) => id === 'desk')
  for (const { id, readAt, lower, jointOhm } of swept) {
    const sunk = {
      ...load,
      frequencyHz: Float64Array.from(load.frequencyHz, (f) => f * (1 - lower)),
    }
    const parts = document.stages.slice(from)
    const stages =
      jointOhm > 0
        ? [parts[0]!, { kind: 'series' as const, rOhm: jointOhm, xOhm: 0 }, ...parts.slice(1)]
        : parts
    const hz = frequencyGrid(
      load.frequencyHz[0]! * 1.01,
      load.frequencyHz[load.frequencyHz.length - 1]! * 0.98,
      401,
    )
    await keep(
      id,
      { before: 'desk', alone: false, farEnd: 'antenna', readAt, name: 'yearly sweep' },
      expectedSweep({ ...chain, stages, load: sunk }, 0, hz, 'antenna'),
    )
  }
  const duct = document.stages.findIndex(({ id }) => id === 'duct')
  const hz = frequencyGrid(1e6, 300e6, 401)
  for (const { id, readAt, factor } of sweptAlone) {
    const stages = chain.stages.map((stage, k) =>
      k === duct && stage.kind === 'line' ? { ...stage, ageing: { factor } } : stage,
    )
    await keep(
      id,
      { before: 'duct', alone: true, farEnd: 'open', readAt, name: 'acceptance' },
      expectedSweep(pieceAlone({ ...chain, stages }, duct), 0, hz, 'open'),
    )
  }
}

async function readingsOf(
  db: Database,
  { chainId, channelIds, places, instrument, seed, causeIn }: Account,
): Promise<ReadingBody[]> {
  const { document } = await readChain(db, chainId)
  const chosen = document.channels.filter(({ id }) => channelIds.includes(id))
  // Readings are taken on a steady carrier: FM on VHF, key down on HF.
  const mode = document.transmitter.name === 'Dunlin 25' ? ('FM' as const) : ('key-down' as const)
  const channels = chosen.map(({ frequencyHz, powerW }): Channel => ({
    frequencyHz,
    powerW,
    mode,
    emission: { mode },
  }))
  const stageIndex = (id: string) => document.stages.findIndex((stage) => stage.id === id)
  const meter = instruments.find(({ id }) => id === instrument)!.document
  const rest: Omit<Case, 'readings'> = {
    chain: await chainOfDocument(db, document),
    channels,
    instruments: [meter],
    tolerances: usualTolerances,
  }
  const sites = channels.flatMap((_, point) =>
    places.map((place) => ({ point, plane: stageIndex(place), instrument: 0 })),
  )
  return Array.from({ length: MONTHS }, (_, month) => {
    const day = new Date(FIRST)
    day.setUTCMonth(day.getUTCMonth() + month)
    const read = simulateReadings(
      rest,
      sites,
      causeIn(month, stageIndex),
      seed,
      seed * 1000 + month,
    )
    return read.map(({ point, plane, forwardW, reflectedW, rangeW }, i): ReadingBody => ({
      channelId: chosen[point]!.id,
      frequencyHz: channels[point]!.frequencyHz,
      mode,
      powerW: channels[point]!.powerW,
      before: document.stages[plane]!.id,
      forwardW: asRead(forwardW!),
      reflectedW: asRead(reflectedW!),
      ...(rangeW !== undefined && { rangeW }),
      instrumentId: instrument,
      supplyV: Number((13.5 + 0.1 * ((month * 7 + i) % 4)).toFixed(1)),
      weather: weather[day.getUTCMonth()]!,
      by: watch[month % 2]!,
      readAt: new Date(day.getTime() + i * 90_000).toISOString(),
    }))
  }).flat()
}

/** Three figures, as one writes a display down. */
const asRead = (watts: number): number => Number(watts.toPrecision(3))
