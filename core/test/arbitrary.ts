/** Random chains for properties: everything a station could hold, nothing that no circuit can be. */
import fc from 'fast-check'
import type { Chain, OperatingPoint, Stage } from '../src/index.ts'

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true })

export const cable = fc.record({
  z0Ohm: fc.constantFrom(50, 75),
  velocityFactor: between(0.6, 0.95),
  k1DbPer100m: between(0.1, 3),
  k2DbPer100m: between(0, 0.01),
})

export const line = fc.record({
  kind: fc.constant('line' as const),
  lengthM: between(0.05, 80),
  cable,
})

export const pad = fc.record({ kind: fc.constant('pad' as const), lossDb: between(0, 3) })

const series = fc.record({
  kind: fc.constant('series' as const),
  rOhm: between(0, 20),
  xOhm: between(-200, 200),
})

const shunt = fc.record({
  kind: fc.constant('shunt' as const),
  rOhm: between(1, 2000),
  xOhm: between(-2000, 2000),
})

const transformer = fc.record({
  kind: fc.constant('transformer' as const),
  ratio: between(0.02, 50),
  lossDb: between(0, 2),
  atHz: between(1e6, 30e6),
  leakageOhm: fc.option(between(0, 50), { nil: undefined }),
  magnetisingOhm: fc.option(between(20, 5000), { nil: undefined }),
  coreOhm: fc.option(between(100, 20_000), { nil: undefined }),
})

const stub = fc.record({
  kind: fc.constant('stub' as const),
  lengthM: between(0.05, 40),
  cable,
  end: fc.constantFrom('open' as const, 'short' as const),
})

const isolator = fc.record({
  kind: fc.constant('isolator' as const),
  lossDb: between(0, 2),
  isolationDb: between(10, 40),
})

export const stage: fc.Arbitrary<Stage> = fc.oneof(
  line,
  pad,
  series,
  shunt,
  transformer,
  stub,
  isolator,
)

export const load = fc.record({
  kind: fc.constant('fixed' as const),
  rOhm: between(1, 1000),
  xOhm: between(-1000, 1000),
})

export const transmitter = (
  foldback: [number, number][] = [
    [1.5, 1],
    [3, 0.5],
    [10, 0.1],
  ],
) =>
  fc.record({
    behaviour: fc.constantFrom('levelled' as const, 'peaked' as const),
    foldback: fc.constantFrom<[number, number][]>([], foldback),
  })

export const chain: fc.Arbitrary<Chain> = fc.record({
  transmitter: transmitter(),
  stages: fc.array(stage, { maxLength: 8 }),
  load,
})

export const operatingPoint: fc.Arbitrary<OperatingPoint> = fc.record({
  frequencyHz: between(1.6e6, 500e6),
  powerW: between(0.1, 1500),
})
