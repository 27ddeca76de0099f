/**
 * `npx tsx server/bench/trained.ts`: how often a classifier finds the cause that was trained on the stations it is asked about,
 * thousands of them, beside the diagnosis, which knows the equations alone. What neither finds is not in the readings.
 * `DRAWS` for training, `TRIES` to be asked about, `SEED` for fresh ones; `ONLY=home`, `abroad`, `even` or `two`.
 *
 * One classifier each for what has the same places to read. Of a loss it is asked between which two places that were read:
 * nearer than that the diagnosis names a range as well.
 */
import { type Prepared, prepare, type Random, seeded, twoThings, weigh } from '@saltline/core'
import { drawKind, type HiddenKind, kindsAbroad } from '../../core/bench/abroad.ts'
import { type Example, train } from './classifier.ts'
import { percent } from './percent.ts'
import { abroadQuestion, homeQuestion, type Question } from './questions.ts'

const DRAWS = Number(process.env['DRAWS'] ?? 120_000)
const TRIES = Number(process.env['TRIES'] ?? 900)
const SEED = Number(process.env['SEED'] ?? 0)
const only = process.env['ONLY']
const wanted = (name: string) => only === undefined || only === name

/** Classifiers by group, each trained on what is drawn for it. */
function learned(draw: (i: number) => Question, groups: ReadonlySet<string>) {
  const lessons = new Map<string, { labels: string[]; examples: Example[] }>()
  for (let i = 0; i < DRAWS; i++) {
    const { group, features, truth } = draw(i)
    if (!groups.has(group)) continue
    const lesson = lessons.get(group) ?? { labels: [], examples: [] }
    lessons.set(group, lesson)
    const { labels, examples } = lesson
    if (!labels.includes(truth)) labels.push(truth)
    examples.push({ features, label: labels.indexOf(truth) })
  }
  return new Map(
    [...lessons].map(([group, { labels, examples }]) => {
      const full = train(examples, labels.length, 1)
      const half = train(examples.slice(0, examples.length / 2), labels.length, 1)
      console.log(`${group}: ${examples.length} trained on, ${labels.length} answers`)
      return [group, { labels, full, half }]
    }),
  )
}

const known = new Map<string, Prepared>()
function weighed({ kase, key }: Question) {
  const before = known.get(key) ?? prepare(kase)
  known.set(key, before)
  return weigh(kase, undefined, before)
}

interface Score {
  tries: number
  diagnosis: [number, number]
  trained: [number, number]
  half: [number, number]
  neither: number
}
const noScore = (): Score => ({
  ...{ tries: 0, diagnosis: [0, 0], trained: [0, 0], half: [0, 0], neither: 0 },
})

/** Asks classifier and diagnosis the same: how often each is right with its first answer, and with one of its first two. */
function compare(title: string, ask: (i: number) => Question, draw: (i: number) => Question): void {
  const asked = Array.from({ length: TRIES }, (_, i) => ask(i))
  const classifiers = learned(draw, new Set(asked.map(({ group }) => group)))
  const scores = new Map<string, Score>()
  for (const question of asked) {
    const { names, features, same, right, group } = question
    const { labels, ...by } = classifiers.get(group)!
    const { explanations } = weighed(question).diagnosis
    const place = explanations.findIndex(({ cause }) => names(cause))
    const placeBy = (classifier: (features: readonly number[]) => Float64Array) => {
      const shares = new Map<string, number>()
      classifier(features).forEach((share, label) => {
        const answer = same(labels[label]!)
        shares.set(answer, (shares.get(answer) ?? 0) + share)
      })
      const order = [...shares].sort(([, a], [, b]) => b - a).map(([answer]) => answer)
      return order.findIndex(right)
    }
    const places = { diagnosis: place, trained: placeBy(by.full), half: placeBy(by.half) }
    for (const name of new Set([group, 'all'])) {
      const own = scores.get(name) ?? noScore()
      scores.set(name, own)
      own.tries++
      for (const who of ['diagnosis', 'trained', 'half'] as const) {
        own[who][0] += Number(places[who] === 0)
        own[who][1] += Number(places[who] === 0 || places[who] === 1)
      }
      own.neither += Number(places.diagnosis !== 0 && places.trained !== 0)
    }
  }
  console.log(`\n${title}: ${TRIES} stations, right first and among the first two`)
  console.table(
    Object.fromEntries(
      [...scores].map(([name, { tries, neither, ...by }]) => [
        name,
        {
          tries,
          ...Object.fromEntries(
            Object.entries(by).map(([who, [first, two]]) => [
              who === 'half' ? 'trained on half' : who,
              `${percent(first, tries)}, ${percent(two, tries)}`,
            ]),
          ),
          neither: percent(neither, tries),
        },
      ]),
    ),
  )
}

/** Far from the seeds that are asked about. */
const FAR = 40_000_000

if (wanted('home'))
  compare(
    'At home',
    (i) => homeQuestion(i, SEED),
    (i) => homeQuestion(i, FAR + SEED),
  )

const inMix = (from: number, random: Random) => (i: number) =>
  abroadQuestion([drawKind(random)], from + 31 * SEED + i)
if (wanted('abroad'))
  compare('Abroad, in the usual mix', inMix(900_001, seeded(77 + SEED)), inMix(FAR, seeded(FAR)))

const evenly = (from: number) => (i: number) =>
  abroadQuestion([kindsAbroad[i % kindsAbroad.length]!], from + 31 * SEED + i)
if (wanted('even')) compare('Abroad, all kinds as often', evenly(950_001), evenly(FAR))

/** One fault or none, or two: how often two are noticed where as few single ones are taken for two. */
if (wanted('two')) {
  const draw = (random: Random, from: number) => (i: number) => {
    const hidden: HiddenKind[] = []
    const count = 1 + (i % 2)
    while (hidden.length < count) {
      const kind = drawKind(random)
      if (count === 1 || (kind !== 'none' && !hidden.includes(kind))) hidden.push(kind)
    }
    return { ...abroadQuestion(hidden, from + 31 * SEED + i), truth: `${count}` }
  }
  const ask = draw(seeded(55 + SEED), 1_200_001)
  const asked = Array.from({ length: TRIES }, (_, i) => ask(i))
  const classifiers = learned(draw(seeded(FAR + 1), FAR), new Set(asked.map(({ group }) => group)))
  const rows = asked.map((question) => {
    const { labels, full, half } = classifiers.get(question.group)!
    const own = weighed(question)
    const { explained } = own.diagnosis
    return {
      two: question.truth === '2',
      says: !explained || (twoThings(own)?.probability ?? 0) > 0.2,
      trained: full(question.features)[labels.indexOf('2')]!,
      half: half(question.features)[labels.indexOf('2')]!,
    }
  })
  const single = rows.filter(({ two }) => !two)
  const twice = rows.filter(({ two }) => two)
  const alarms = single.filter(({ says }) => says).length
  console.log(
    `\nTwo faults abroad: the diagnosis notices ${percent(twice.filter(({ says }) => says).length, twice.length)} of ${twice.length}, ` +
      `and takes ${percent(alarms, single.length)} of single ones for two.`,
  )
  for (const share of [alarms / single.length, 0.1, 0.2, 0.33])
    for (const who of ['trained', 'half'] as const) {
      const limit = single.map((row) => row[who]).sort((a, b) => b - a)[
        Math.round(share * single.length)
      ]!
      console.log(
        `${who === 'half' ? 'trained on half' : 'trained'}, at ${percent(share, 1)}: ${percent(twice.filter((row) => row[who] > limit).length, twice.length)}`,
      )
    }
}
