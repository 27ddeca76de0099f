import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { solveChain } from '@saltline/core'
import { zoomOf } from '../src/chain/zoom.ts'
import {
  axisTicks,
  layOut,
  netBand,
  planePositions,
  planesWithRoom,
  returnedBand,
} from '../src/spine/geometry.ts'
import { document } from './fixtures.ts'

const sizes = { available: 1000, transmitter: 112, least: 58, device: 88 }
const solution = solveChain(
  {
    transmitter: document.transmitter,
    stages: document.stages,
    load: { kind: 'fixed', rOhm: 20, xOhm: 30 },
  },
  { frequencyHz: 8e6, powerW: 100 },
)

describe('laying out', () => {
  test('fills the room, longer cables wider, none below the least', () => {
    const slots = layOut(document.stages, sizes)
    const width = slots.stages.map(({ start, end }) => end - start)
    expect(slots.end).toBeCloseTo(1000, 6)
    expect(width[2]!).toBeGreaterThan(width[0]!)
    expect(Math.abs(width[1]! - 88)).toBeLessThanOrEqual(1)
  })

  test('slots meet without gap or overlap, whatever the chain', () => {
    const count = fc.integer({ min: 0, max: 40 })
    fc.assert(
      fc.property(count, fc.integer({ min: 300, max: 3000 }), (n, available) => {
        const stages = Array.from({ length: n }, (_, i) => ({
          ...document.stages[i % 3]!,
          id: `s${i}`,
        }))
        const slots = layOut(stages, { ...sizes, available })
        let at = slots.transmitter.end
        for (const { start, end } of slots.stages) {
          expect(start).toBeCloseTo(at, 6)
          expect(end - start).toBeGreaterThanOrEqual(57)
          at = end
        }
        expect(slots.end).toBeCloseTo(at, 6)
      }),
    )
  })
})

describe('the band', () => {
  const slots = layOut(document.stages, sizes)

  test('is true to the net watts at every plane', () => {
    const band = netBand(document.stages, solution, slots)
    planePositions(slots).forEach((along, k) => {
      const here = band.filter((p) => Math.abs(p.along - along) < 1e-6)
      expect(here.length).toBeGreaterThan(0)
      for (const p of here) expect(p.watts).toBeCloseTo(solution.planes[k]!.netW, 6)
    })
  })

  test('never rises on a passive chain, and runs forward', () => {
    const band = netBand(document.stages, solution, slots)
    for (let i = 1; i < band.length; i++) {
      expect(band[i]!.watts).toBeLessThanOrEqual(band[i - 1]!.watts + 1e-9)
      expect(band[i]!.along).toBeGreaterThanOrEqual(band[i - 1]!.along)
    }
  })

  test('the returning current holds the reflected watts of every plane', () => {
    expect(returnedBand(solution, slots, document.stages).map((p) => p.watts)).toEqual(
      solution.planes.map((p) => p.reflectedW),
    )
  })
})

test('plane figures never stand closer than their room', () => {
  const positions = fc.array(fc.integer({ min: 10, max: 90 }), { minLength: 1, maxLength: 30 })
  fc.assert(
    fc.property(positions, (steps) => {
      let at = 100
      const places = [at, ...steps.map((s) => (at += s))]
      const shown = [...planesWithRoom(places, steps, 70)].sort((a, b) => a - b)
      expect(shown[0]).toBe(0)
      for (let i = 1; i < shown.length; i++)
        expect(places[shown[i]!]! - places[shown[i - 1]!]!).toBeGreaterThanOrEqual(70)
    }),
  )
})

test('axes end at or below their top in round steps', () => {
  expect(axisTicks(125)).toEqual([0, 25, 50, 75, 100, 125])
  expect(axisTicks(20)).toEqual([0, 5, 10, 15, 20])
  expect(axisTicks(1)).toEqual([0, 0.2, 0.4, 0.6, 0.8, 1])
})

test('a closer look is offered only where the band is thin', () => {
  const answer = (watts: number) => ({
    ok: true as const,
    spread: null,
    solution: { ...solution, planes: [{ ...solution.planes[0]!, netW: watts }] },
  })
  expect(zoomOf(125, answer(110))).toBeNull()
  expect(zoomOf(125, answer(15))).toBe(15)
  expect(zoomOf(125, answer(16))).toBe(20)
  expect(zoomOf(125, answer(0))).toBeNull()
  expect(zoomOf(125, null)).toBeNull()
})
