/** A source of numbers in [0, 1). The core has none of its own: whoever wants chance passes it in. */
export type Random = () => number

/**
 * Evenly spread numbers from a seed: the same seed, the same numbers. Counter-based 32-bit mixing after
 * Steele, Lea & Flood, "Fast splittable pseudorandom number generators" (2014); good for simulation, not
 * for secrets.
 *
 * @example seeded(1)() === seeded(1)() // true
 */
export function seeded(seed: number): Random {
  let state = seed >>> 0
  return () => {
    state = (state + 0x9e3779b9) >>> 0
    let z = state
    z = Math.imul(z ^ (z >>> 16), 0x21f0aaad)
    z = Math.imul(z ^ (z >>> 15), 0x735a2d97)
    return ((z ^ (z >>> 15)) >>> 0) / 4294967296
  }
}

/** One draw of a normal distribution with mean 0 and deviation 1 (Box & Muller 1958). */
export const normal = (random: Random): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())

/**
 * Points in a cube of sides 0 … 1, each of whose coordinates alone is as even as so many numbers can be (McKay, Beckman &
 * Conover 1979).
 *
 * @returns `count` points of `dimensions` coordinates
 * @example latinHypercube(2, 1, seeded(1)).flat().sort() // [0.25, 0.75]
 */
export function latinHypercube(count: number, dimensions: number, random: Random): number[][] {
  const points = Array.from({ length: count }, () => new Array<number>(dimensions))
  for (let d = 0; d < dimensions; d++) {
    const places = Array.from({ length: count }, (_, i) => (i + 0.5) / count)
    for (let i = count - 1; i > 0; i--) {
      const k = Math.floor(random() * (i + 1))
      ;[places[i], places[k]] = [places[k]!, places[i]!]
    }
    points.forEach((point, i) => (point[d] = places[i]!))
  }
  return points
}

/** One draw evenly from −1 to 1. */
export const even = (random: Random): number => 2 * random() - 1

/**
 * One of several things.
 *
 * @example pick(() => 0.5, ['a', 'b', 'c']) // 'b'
 */
export const pick = <T>(random: Random, things: readonly T[]): T =>
  things[Math.floor(random() * things.length)]!

/** Tolerances are two deviations of a normal spread. */
export const half = (random: Random): number => normal(random) / 2
