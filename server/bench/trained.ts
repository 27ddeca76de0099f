/**
 * `npx tsx server/bench/trained.ts`: how often a classifier finds the cause that was trained on the stations it is asked about,
 * thousands of them, beside the diagnosis, which knows the equations alone. What neither finds is not in the readings.
 * `DRAWS` for training, `TRIES` to be asked about, `SEED` for fresh ones.
 *
 * One classifier each for a chain and a meter, since only figures change within these: two hidden layers, by Adam (Kingma & Ba 2015).
 * A loss is right between the right two places that were read: nearer than that the diagnosis names a range as well.
 */
import {
  type Cause,
  type MeterReading,
  type Prepared,
  prepare,
  seeded,
  simulateReadings,
  weigh,
} from '@saltline/core'
import { askHome, type AskedHome } from './home.ts'

const DRAWS = Number(process.env['DRAWS'] ?? 120_000)
const TRIES = Number(process.env['TRIES'] ?? 900)
const SEED = Number(process.env['SEED'] ?? 0)

const groupOf = ({ key, kase: { readings } }: AskedHome) => `${key} ${readings[0]!.instrument}`

/** What a classifier is to say. */
function labelOf(cause: Cause, planes: readonly number[]): string {
  // Between the same two places losses look alike.
  const between = (stage: number) => planes.filter((plane) => plane <= stage).length
  switch (cause.kind) {
    case 'loss':
      return `loss ${between(cause.from)}`
    case 'aged':
      return `aged ${cause.stage}`
    case 'transmitter':
      return `transmitter ${cause.point}`
    case 'meter':
      return `meter ${cause.instrument}`
    case 'slip':
      return `slip ${cause.reading}`
    default:
      return cause.kind
  }
}

const planesOf = ({ kase }: AskedHome) =>
  [...new Set(kase.readings.map(({ plane }) => plane))].toSorted((a, b) => a - b)

/** Decibels of what is shown over what a sound station of nominal figures shows, and |ρ|; wide figures bent inward. */
function featuresOf(readings: readonly MeterReading[], sound: readonly MeterReading[]): number[] {
  const db = (watts: number, of: number) => 10 * Math.log10((watts + 1e-3) / (of + 1e-3))
  const rho = ({ forwardW, reflectedW }: MeterReading) =>
    Math.sqrt(Math.max(0, reflectedW ?? 0) / Math.max(1e-3, forwardW ?? 0))
  return readings.flatMap((reading, i) => [
    db(reading.forwardW ?? 0, sound[i]!.forwardW ?? 0),
    db(reading.reflectedW ?? 0, sound[i]!.reflectedW ?? 0),
    rho(reading) - rho(sound[i]!),
  ])
}

class Layer {
  readonly w: Float32Array
  readonly gradient: Float32Array
  private readonly m: Float32Array
  private readonly v: Float32Array
  readonly out: Float32Array
  readonly back: Float32Array

  /** Weights of each output one after the other, the last one for a constant. */
  constructor(
    readonly inputs: number,
    readonly outputs: number,
    random: () => number,
  ) {
    const count = (inputs + 1) * outputs
    // He et al. 2015.
    this.w = Float32Array.from({ length: count }, () => (random() - 0.5) * Math.sqrt(24 / inputs))
    this.gradient = new Float32Array(count)
    this.m = new Float32Array(count)
    this.v = new Float32Array(count)
    this.out = new Float32Array(outputs)
    this.back = new Float32Array(inputs)
  }

  forward(input: ArrayLike<number>, bend: boolean): Float32Array {
    const { inputs: n, w, out } = this
    for (let o = 0; o < out.length; o++) {
      const at = o * (n + 1)
      let sum = w[at + n]!
      for (let i = 0; i < n; i++) sum += w[at + i]! * input[i]!
      out[o] = bend && sum < 0 ? 0 : sum
    }
    return out
  }

  /** Adds to the gradient; returns what the inputs would have to change by. */
  backward(input: ArrayLike<number>, error: ArrayLike<number>): Float32Array {
    const { inputs: n, w, gradient, back } = this
    back.fill(0)
    for (let o = 0; o < this.outputs; o++) {
      const e = error[o]!
      if (e === 0) continue
      const at = o * (n + 1)
      for (let i = 0; i < n; i++) {
        gradient[at + i]! += e * input[i]!
        back[i]! += e * w[at + i]!
      }
      gradient[at + n]! += e
    }
    return back
  }

  step(rate: number, t: number): void {
    const { w, gradient, m, v } = this
    const [c1, c2] = [1 - 0.9 ** t, 1 - 0.999 ** t]
    for (let i = 0; i < w.length; i++) {
      const g = gradient[i]!
      m[i] = 0.9 * m[i]! + 0.1 * g
      v[i] = 0.999 * v[i]! + 0.001 * g * g
      w[i]! -= (rate * (m[i]! / c1)) / (Math.sqrt(v[i]! / c2) + 1e-8)
      gradient[i] = 0
    }
  }
}

interface Example {
  features: number[]
  label: number
}
const HIDDEN = 96
const BATCH = 32
const EPOCHS = 14

/** @returns the labels of features, the likeliest first */
function train(examples: readonly Example[], labels: number, seed: number) {
  const random = seeded(seed)
  const n = examples[0]!.features.length
  const mean = (of: (example: Example) => number) =>
    examples.reduce((sum, each) => sum + of(each), 0) / examples.length
  const means = Array.from({ length: n }, (_, i) => mean(({ features }) => features[i]!))
  const spreads = means.map(
    (own, i) => Math.sqrt(mean(({ features }) => (features[i]! - own) ** 2)) || 1,
  )
  // Small changes matter most: what is ten times the usual spread bends to three.
  const scaled = (features: readonly number[]) =>
    features.map((own, i) => Math.asinh((8 * (own - means[i]!)) / spreads[i]!))
  const layers = [
    new Layer(n, HIDDEN, random),
    new Layer(HIDDEN, HIDDEN, random),
    new Layer(HIDDEN, labels, random),
  ] as const
  const [one, two, three] = layers
  const run = (input: readonly number[]) =>
    three.forward(two.forward(one.forward(input, true), true), false)
  const inputs = examples.map(({ features }) => scaled(features))
  const order = examples.map((_, i) => i)
  const error = new Float32Array(labels)
  let steps = 0
  for (let epoch = 0; epoch < EPOCHS; epoch++) {
    for (let i = order.length - 1; i > 0; i--) {
      const j = Math.floor(random() * (i + 1))
      ;[order[i], order[j]] = [order[j]!, order[i]!]
    }
    const rate = 2e-3 * 0.5 * (1 + Math.cos((Math.PI * epoch) / EPOCHS))
    order.forEach((at, i) => {
      const input = inputs[at]!
      const out = run(input)
      const top = out.reduce((a, b) => Math.max(a, b))
      let sum = 0
      for (let o = 0; o < labels; o++) sum += error[o] = Math.exp(out[o]! - top)
      for (let o = 0; o < labels; o++)
        error[o] = (error[o]! / sum - Number(o === examples[at]!.label)) / BATCH
      const second = three.backward(two.out, error)
      two.out.forEach((value, o) => value === 0 && (second[o] = 0))
      const first = two.backward(one.out, second)
      one.out.forEach((value, o) => value === 0 && (first[o] = 0))
      one.backward(input, first)
      if ((i + 1) % BATCH === 0) {
        steps++
        for (const layer of layers) layer.step(rate, steps)
      }
    })
  }
  return (features: readonly number[]) => {
    const out = run(scaled(features))
    return [...out.keys()].toSorted((a, b) => out[b]! - out[a]!)
  }
}

/** Kinds are in turns; of each station and meter as they come. */
function groups(from: number, count: number): Map<string, AskedHome[]> {
  const found = new Map<string, AskedHome[]>()
  for (let i = 0; i < count; i++) {
    const asked = askHome(i, from)
    const own = found.get(groupOf(asked)) ?? []
    found.set(groupOf(asked), own)
    own.push(asked)
  }
  return found
}

const asked = groups(SEED, TRIES)
const score = { trained: [0, 0], half: [0, 0], diagnosis: [0, 0], neither: 0 }
const known = new Map<string, Prepared>()

/** What a group of stations is trained on. */
interface Lesson {
  planes: number[]
  sound: MeterReading[]
  labels: string[]
  examples: Example[]
}
const lessons = new Map(
  [...asked].map(([group, [one]]): [string, Lesson] => {
    const { kase } = one!
    const sites = kase.readings.map(({ point, plane, instrument }) => ({
      point,
      plane,
      instrument,
    }))
    const exact = { ...kase.tolerances, length: 0, cable: 0, parts: 0, reflection: 0 }
    const sound = simulateReadings({ ...kase, tolerances: exact }, sites, { kind: 'none' }, 1)
    return [group, { planes: planesOf(one!), sound, labels: [], examples: [] }]
  }),
)
for (let i = 0; i < DRAWS; i++) {
  // Far from the seeds that are asked about.
  const drawn = askHome(i, 40_000_000 + SEED)
  const lesson = lessons.get(groupOf(drawn))
  if (!lesson) continue
  const { planes, sound, labels, examples } = lesson
  const label = labelOf(drawn.cause, planes)
  if (!labels.includes(label)) labels.push(label)
  examples.push({
    features: featuresOf(drawn.kase.readings, sound),
    label: labels.indexOf(label),
  })
}

for (const [group, own] of asked) {
  const { planes, sound, labels, examples } = lessons.get(group)!
  const full = train(examples, labels.length, 1)
  const half = train(examples.slice(0, examples.length / 2), labels.length, 1)
  for (const each of own) {
    const features = featuresOf(each.kase.readings, sound)
    const right = labels.indexOf(labelOf(each.cause, planes))
    const placed = (order: number[], into: number[]) => {
      into[0]! += Number(order[0] === right)
      into[1]! += Number(order.slice(0, 2).includes(right))
    }
    placed(full(features), score.trained)
    placed(half(features), score.half)
    const before = known.get(each.key) ?? prepare(each.kase)
    known.set(each.key, before)
    const { explanations } = weigh(each.kase, undefined, before).diagnosis
    const place = explanations.findIndex(({ cause }) => each.names(cause))
    score.diagnosis[0]! += Number(place === 0)
    score.diagnosis[1]! += Number(place >= 0 && place < 2)
    score.neither += Number(place !== 0 && full(features)[0] !== right)
  }
  console.log(
    `${group}: ${own.length} asked, ${examples.length} trained on, ${labels.length} answers`,
  )
}
const percent = (of: number) => `${((100 * of) / TRIES).toFixed(1)} %`
console.table(
  Object.fromEntries(
    (['diagnosis', 'trained', 'half'] as const).map((name) => [
      { diagnosis: 'the diagnosis', trained: 'trained', half: 'trained on half of it' }[name],
      { first: percent(score[name][0]!), 'among two': percent(score[name][1]!) },
    ]),
  ),
)
console.log(`Neither finds ${percent(score.neither)}.`)
