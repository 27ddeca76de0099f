/**
 * How often a diagnosis is right. At home: causes are put into the demo station by the model's own laws. Abroad: stations,
 * meters and faults of other laws (`core/bench/abroad.ts`), in the usual mix and with all kinds as often, under the usual
 * priors. Prints, for every kind of cause, how often the right one came first and among the first two, and how honest the
 * stated probabilities are. `TRIES` of each, `SEED` for fresh ones, `ONLY` one of home, swept, usual, sweptAbroad,
 * even, sound, next, two.
 */
import {
  type Cause,
  type Diagnosis,
  type Prepared,
  prepare,
  seeded,
  twoThings,
  usualPriors,
  usualTolerances,
  weigh,
} from '@saltline/core'
import { drawKind, type HiddenKind, kindsAbroad, trialAbroad } from '../../core/bench/abroad.ts'
import { type Asked, askHome } from './home.ts'
import { compareHunts } from './hunts.ts'
import { percent } from './percent.ts'

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

if (wanted('next')) compareHunts(Math.round(TRIES / 9), SEED)

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
