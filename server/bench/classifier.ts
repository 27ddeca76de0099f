/** A classifier by example: two hidden layers, trained by Adam (Kingma & Ba 2015). */
import { seeded } from '@saltline/core'

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

export interface Example {
  features: number[]
  label: number
}
const HIDDEN = 96
const BATCH = 32
const EPOCHS = 14

/** @returns how likely each label is for some features; together they make 1 */
export function train(examples: readonly Example[], labels: number, seed: number) {
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
  return (features: readonly number[]): Float64Array => {
    const out = run(scaled(features))
    const top = out.reduce((a, b) => Math.max(a, b))
    const likely = Float64Array.from(out, (value) => Math.exp(value - top))
    const sum = likely.reduce((a, b) => a + b)
    return likely.map((value) => value / sum)
  }
}
