/**
 * How often a diagnosis is right. At home: causes are put into the demo station by the model's own laws. Abroad: stations,
 * meters and faults of other laws (`core/bench/abroad.ts`), in the usual mix and with all kinds as often, under the usual
 * priors. Prints, for every kind of cause, how often the right one came first and among the first two, and how honest the
 * stated probabilities are. `TRIES` of each, `SEED` for fresh ones, `ONLY` one of home, swept, usual, sweptAbroad,
 * even, sound, next, two.
 */
import {
  type Case,
  type Cause,
  type Diagnosis,
  hiddenStation,
  type MeterReading,
  nextReadings,
  pick,
  type Prepared,
  prepare,
  type Random,
  seeded,
  type Site,
  twoThings,
  usualPriors,
  usualTolerances,
  weigh,
  type Weighed,
} from '@saltline/core'
import { drawKind, type HiddenKind, kindsAbroad, trialAbroad } from '../../core/bench/abroad.ts'
import { all, type Asked, askHome, drawCause, instruments, kinds, names } from './home.ts'

const TRIES = Number(process.env['TRIES'] ?? 900)
/** Another one gives fresh stations and causes. */
const SEED = Number(process.env['SEED'] ?? 0)

interface Score {
  tries: number
  first: number
  two: number
  explained: number
  /** The kind was right, wherever it is. */
  kind: number
}

/** What a chain is expected to be is the same for all tries of it. */
const known = new Map<string, Prepared>()
function answered({ kase, key }: Asked): Diagnosis {
  const before = known.get(key) ?? prepare(kase)
  known.set(key, before)
  return weigh(kase, undefined, before).diagnosis
}

function score(title: string, tries: number, ask: (i: number) => Asked): void {
  const scores = new Map<string, Score>()
  /** By the stated probability of the first: how often it was right. */
  const honesty = new Map<number, { tries: number; right: number; said: number }>()
  const misses = new Map<string, number>()
  let soundBlamed = 0
  const began = performance.now()
  for (let i = 0; i < tries; i++) {
    const asked = ask(i)
    const { explanations, explained } = answered(asked)
    const own = scores.get(asked.kind) ?? { tries: 0, first: 0, two: 0, explained: 0, kind: 0 }
    scores.set(asked.kind, own)
    const first = asked.names(explanations[0]!.cause)
    own.tries++
    own.first += Number(first)
    own.two += Number(explanations.slice(0, 2).some((e) => asked.names(e.cause)))
    own.explained += Number(explained)
    own.kind += Number(explanations[0]!.cause.kind === asked.kind)
    if (asked.kind === 'none' && !first) soundBlamed++
    if (!first) {
      const miss = `${asked.kind} → ${explanations[0]!.cause.kind}`
      misses.set(miss, (misses.get(miss) ?? 0) + 1)
    }
    const { probability } = explanations[0]!
    const edge = BINS.findIndex((most) => probability <= most)
    const bin = honesty.get(edge) ?? { tries: 0, right: 0, said: 0 }
    honesty.set(edge, bin)
    bin.tries++
    bin.right += Number(first)
    bin.said += probability
  }
  const total = [...scores.values()].reduce((a, b) => ({
    tries: a.tries + b.tries,
    first: a.first + b.first,
    two: a.two + b.two,
    explained: a.explained + b.explained,
    kind: a.kind + b.kind,
  }))
  console.log(
    `\n${title}: ${tries} stations, ${((performance.now() - began) / tries).toFixed(0)} ms each`,
  )
  console.table(
    Object.fromEntries(
      [...scores, ['all', total] as const].map(([kind, s]) => [
        kind,
        {
          tries: s.tries,
          'right cause first': percent(s.first, s.tries),
          'among the first two': percent(s.two, s.tries),
          'called explained': percent(s.explained, s.tries),
          ...(places.has(kind) && { 'its place too': percent(s.first, s.kind) }),
        },
      ]),
    ),
  )
  console.log('How often the first was right, by the probability stated for it:')
  console.table(
    [...honesty]
      .toSorted(([a], [b]) => a - b)
      .map(([edge, { tries: of, right, said }]) => ({
        'up to': BINS[edge],
        'stated (mean)': percent(said, of),
        right: percent(right, of),
        tries: of,
      })),
  )
  const sound = scores.get('none')
  if (sound) console.log(`Sound, and given a fault: ${percent(soundBlamed, sound.tries)}`)
  console.log(
    'Taken for another:',
    [...misses]
      .sort((a, b) => b[1] - a[1])
      .map(([miss, count]) => `${miss} ${count}`)
      .join(', '),
  )
}

/** Kinds that are somewhere along the line. */
const places = new Set(['loss', 'aged'])

const BINS = [0.4, 0.6, 0.8, 0.95, 0.99, 1]
const percent = (part: number, whole: number) =>
  whole > 0 ? `${((100 * part) / whole).toFixed(1)} %` : '–'

/** The same with one sweep from the first place behind the tuners, over the channels and around them. */
function askSwept(i: number): Asked {
  const asked = askHome(i, SEED)
  const { chain, channels } = asked.kase
  const plane = chain.stages.findLastIndex(({ kind }) => kind === 'tuner') + 1
  const hz = channels.map(({ frequencyHz }) => frequencyHz)
  const known = chain.load.kind === 'sweep' ? Array.from(chain.load.frequencyHz) : [0, Infinity]
  const low = Math.max(known[0]!, Math.min(...hz) * 0.7)
  const high = Math.min(known.at(-1)!, Math.max(...hz) * 1.5)
  const frequencyHz = Float64Array.from({ length: 201 }, (_, k) => low + ((high - low) * k) / 200)
  const sweep = asked
    .hidden()
    .sweep(
      plane,
      frequencyHz,
      'antenna',
      { noise: 0.001, directivityDb: 40 },
      seeded(9_000_000 + SEED + i),
    )
  return { ...asked, kase: { ...asked.kase, sweeps: [{ ...sweep, plane, farEnd: 'antenna' }] } }
}

function askAbroad(kind: HiddenKind, i: number): Asked {
  const trial = trialAbroad([kind], 900_001 + 31 * SEED + i)
  return {
    kind,
    kase: { ...trial, tolerances: usualTolerances },
    names: trial.names[0]!,
    key: `${trial.station} ${kind === 'averaging'}`,
  }
}

/** The same with one sweep, where a line can be looked along. */
function askSweptAbroad(kind: HiddenKind, i: number): Asked {
  const trial = trialAbroad([kind], 900_001 + 31 * SEED + i)
  const asked = askAbroad(kind, i)
  const sweep = trial.sweep()
  return { ...asked, kase: { ...asked.kase, sweeps: sweep ? [sweep] : [] } }
}

const only = process.env['ONLY']
const wanted = (name: string) => only === undefined || only === name
if (wanted('home')) score('At home, all kinds as often', TRIES, (i) => askHome(i, SEED))
if (wanted('swept')) score('At home, with one sweep', TRIES, askSwept)
if (wanted('usual')) {
  const random = seeded(77 + SEED)
  score('Abroad, in the usual mix', TRIES, (i) => askAbroad(drawKind(random), i))
}
if (wanted('sweptAbroad'))
  for (const [title, ask] of [
    ['Abroad, in the usual mix, by readings alone', askAbroad],
    ['Abroad, in the usual mix, with one sweep', askSweptAbroad],
  ] as const) {
    const random = seeded(77 + SEED)
    score(title, TRIES, (i) => ask(drawKind(random), i))
  }
if (wanted('even'))
  score('Abroad, all kinds as often', TRIES, (i) =>
    askAbroad(kindsAbroad[i % kindsAbroad.length]!, 50_000 + i),
  )

/** Stations in which nothing is hidden, under the usual priors: how often each is called sound, and how surely. */
function soundOnes(title: string, tries: number, ask: (i: number) => Asked): void {
  let sound = 0
  let said = 0
  const blamed = new Map<string, number>()
  for (let i = 0; i < tries; i++) {
    const { kase, key } = ask(i)
    const [first] = answered({
      kase: { ...kase, priors: usualPriors },
      key,
      kind: 'none',
      names: () => true,
    }).explanations
    if (first!.cause.kind === 'none') sound++
    else {
      const who = `${first!.cause.kind} (${key})`
      blamed.set(who, (blamed.get(who) ?? 0) + 1)
    }
    said += first!.cause.kind === 'none' ? first!.probability : 0
  }
  console.log(
    `${title}: ${percent(sound, tries)} of ${tries} sound stations are called sound (mean ${percent(said, sound)}); the others:`,
    [...blamed].map(([kind, count]) => `${kind} ${count}`).join(', ') || 'none',
  )
}

if (wanted('sound')) {
  // Every ninth has nothing hidden in it.
  soundOnes('At home', Math.round(TRIES / 3), (i) => askHome(9 * i, SEED))
  soundOnes('At home, with one sweep', Math.round(TRIES / 3), (i) => askSwept(9 * i))
  soundOnes('Abroad', Math.round(TRIES / 3), (i) => askAbroad('none', 30_000 + i))
}

/** Goes on reading a station until the right cause stands at 90 %, and counts; nine where eight readings do not. */
interface Hunt {
  kase: Omit<Case, 'readings'>
  key: string
  names: (found: Cause) => boolean
  planes: number[]
  /** The meter in use, and another one. */
  instruments: [number, number]
  read: (site: Site, share: number) => MeterReading
}
/** Where to read next, and at which share of the channel's power where that is less than all. */
type Advice = Site & { share?: number }
type Strategy = (hunt: Hunt, readings: MeterReading[], weighed: Weighed, random: Random) => Advice

const strategies: Record<string, Strategy> = {
  advice: ({ kase, planes, instruments: [main, other] }, _, weighed) => {
    const [best] = nextReadings(weighed, kase.instruments[other]!, planes)
    return best
      ? { ...best, instrument: best.instrument ?? other }
      : { point: 0, plane: planes[0]!, instrument: main }
  },
  random: ({ kase, planes, instruments }, _, _weighed, random) => ({
    point: Math.floor(random() * kase.channels.length),
    plane: pick(random, planes),
    instrument: pick(random, instruments),
  }),
  walking: ({ planes, instruments: [main] }, readings) => ({
    point: 0,
    plane: planes[readings.length % planes.length]!,
    instrument: main,
  }),
}

function hunt(make: (i: number) => Hunt, strategy: Strategy, i: number): number {
  const own = make(i)
  const random = seeded(4242 + i)
  const readings: MeterReading[] = []
  let site: Advice = { point: 0, plane: own.planes[0]!, instrument: own.instruments[0] }
  let { kase } = own
  let before = known.get(own.key) ?? prepare(kase)
  known.set(own.key, before)
  // What is read at less power is a channel of its own.
  const origins = kase.channels.map((_, point) => ({ point, share: 1 }))
  for (let taken = 1; taken <= 8; taken++) {
    const { share = 1, ...at } = site
    const origin = origins[at.point]!
    const read = own.read({ ...at, point: origin.point }, origin.share * share)
    if (share < 1) {
      const channel = kase.channels[at.point]!
      origins.push({ point: origin.point, share: origin.share * share })
      kase = {
        ...kase,
        channels: [...kase.channels, { ...channel, powerW: channel.powerW * share }],
      }
      before = prepare(kase)
    }
    readings.push({ ...read, point: share < 1 ? kase.channels.length - 1 : at.point })
    const weighed = weigh({ ...kase, readings }, undefined, before)
    const right = weighed.diagnosis.explanations.reduce(
      (sum, { cause, probability }) => sum + (own.names(cause) ? probability : 0),
      0,
    )
    if (right >= 0.9) return taken
    site = strategy({ ...own, kase }, readings, weighed, random)
  }
  return 9
}

function compareStrategies(title: string, tries: number, make: (i: number) => Hunt): void {
  const counts = Object.fromEntries(
    Object.entries(strategies).map(([name, strategy]) => [
      name,
      Array.from({ length: tries }, (_, i) => hunt(make, strategy, i)),
    ]),
  )
  const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length
  console.log(`\n${title}: readings until the right cause stands at 90 %, of ${tries}`)
  console.table(
    Object.fromEntries(
      Object.entries(counts).map(([name, values]) => [
        name,
        {
          mean: mean(values).toFixed(2),
          'of random': (mean(values) / mean(counts['random']!)).toFixed(2),
          found: percent(values.filter((count) => count < 9).length, tries),
          'advice is as good or better': percent(
            values.filter((count, i) => counts['advice']![i]! <= count).length,
            tries,
          ),
        },
      ]),
    ),
  )
}

const faulty = kinds.filter((kind) => kind !== 'none' && kind !== 'slip')
const HUNTS = Math.round(TRIES / 9)
if (wanted('next')) {
  compareStrategies('At home', HUNTS, (i) => {
    const random = seeded(7000 + SEED + i)
    const station = pick(random, all)
    const kase = {
      chain: station.chain,
      channels: station.channels,
      instruments,
      tolerances: usualTolerances,
    }
    const planes = [...station.chain.stages, null].map((_, plane) => plane)
    const kind = pick(
      random,
      faulty.filter((each) => each !== 'averaging'),
    )
    const places = planes.map((plane) => ({ point: 0, plane, instrument: 0 }))
    const cause = drawCause(kind, station, places, random)
    const hidden = hiddenStation(kase, [cause], 9000 + SEED + i)
    const chance = seeded(31 + i)
    const shownAt = (site: Site, share: number) => {
      const { rangeW, ...shown } = hidden.show(
        site,
        hidden.wavesAt(site.point, kase.channels[site.point]!.powerW * share)[site.plane]!,
        chance,
      )
      return { ...shown, ...(rangeW !== null && { rangeW }) }
    }
    return {
      kase,
      key: `hunt ${all.indexOf(station)}`,
      names: (found) => names(found, cause),
      planes,
      instruments: [0, 1],
      read: ({ point, plane, instrument }, share) => ({
        ...{ point, plane, instrument },
        ...shownAt({ point, plane, instrument }, share),
      }),
    }
  })
  compareStrategies('Abroad', HUNTS, (i) => {
    const random = seeded(8000 + SEED + i)
    let kind: HiddenKind
    do kind = drawKind(random)
    while (kind === 'none' || kind === 'slip' || kind === 'averaging')
    const trial = trialAbroad([kind], 700_001 + 31 * SEED + i)
    return {
      kase: { ...trial, tolerances: usualTolerances },
      key: `${trial.station} false`,
      names: trial.names[0]!,
      planes: trial.planes,
      instruments: [trial.readings[0]!.instrument, (trial.readings[0]!.instrument + 1) % 3],
      read: trial.read,
    }
  })
}

/** Two faults at once: whether it is noticed that one does not explain, and whether both are named. */
if (wanted('two')) {
  const random = seeded(55 + SEED)
  const tries = Math.round(TRIES / 3)
  const noticed = { one: 0, two: 0 }
  let both = 0
  let ms = 0
  for (let i = 0; i < tries; i++)
    for (const count of [1, 2]) {
      const hidden: HiddenKind[] = []
      while (hidden.length < count) {
        const kind = drawKind(random)
        if (count === 1 || (kind !== 'none' && !hidden.includes(kind))) hidden.push(kind)
      }
      const trial = trialAbroad(hidden, 1_200_001 + 31 * SEED + 2 * i + count)
      const kase = { ...trial, tolerances: usualTolerances }
      const key = `${trial.station} ${hidden.includes('averaging')}`
      const before = known.get(key) ?? prepare(kase)
      known.set(key, before)
      const weighed = weigh(kase, undefined, before)
      const began = performance.now()
      const found = twoThings(weighed)
      ms += performance.now() - began
      const { explanations, explained } = weighed.diagnosis
      const says = !explained || (found?.probability ?? 0) > 0.2
      if (count === 1) {
        noticed.one += Number(says)
        continue
      }
      noticed.two += Number(says)
      const all = (causes: readonly Cause[]) =>
        trial.names.every((names) => causes.some((cause) => names(cause)))
      both += Number(
        (found?.pairs ?? []).some(({ causes }) => all(causes)) ||
          all(explanations.slice(0, 2).map(({ cause }) => cause)),
      )
    }
  console.log(
    `\nTwo faults abroad, ${tries}: noticed ${percent(noticed.two, tries)} (one or none taken for two ${percent(noticed.one, tries)}), ` +
      `both named among the first two ${percent(both, tries)}; ${(ms / tries / 2).toFixed(0)} ms each`,
  )
}
