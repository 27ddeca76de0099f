import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { solveChain } from '@saltline/core'
import { zoomOf } from '../src/model/zoom.ts'
import { axisTicks, layOut, netBand, planePositions, returnedBand } from '../src/spine/geometry.ts'
import { placeLabels } from '../src/spine/labels.ts'
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

describe('figures beside the band', () => {
  /** An edge that falls or rises at will, and planes on it. */
  const steps = fc.array(
    fc.tuple(fc.integer({ min: 40, max: 160 }), fc.integer({ min: 40, max: 160 })),
    {
      minLength: 2,
      maxLength: 16,
    },
  )
  const sizes = { width: 58, height: 32 }

  test('touch neither the edge nor each other, whatever the chain', () => {
    fc.assert(
      fc.property(steps, (all) => {
        let x = 60
        const edge = all.map(([wide, y]): [number, number] => [(x += wide), y])
        const labels = edge.map(([along]) => ({ along, ...sizes }))
        const surface = { edge, floor: 164, ceiling: 0, right: x }
        const boxes = placeLabels(labels, surface, []).filter((box) => box !== null)
        for (const box of boxes) {
          for (let at = box.left; at <= box.left + box.width; at += 2) {
            const y = edgeAt(edge, at)
            expect(y <= box.top || y >= box.top + box.height).toBe(true)
          }
          for (const other of boxes)
            if (other !== box)
              expect(
                box.left + box.width <= other.left ||
                  other.left + other.width <= box.left ||
                  box.top + box.height <= other.top ||
                  other.top + other.height <= box.top,
              ).toBe(true)
        }
      }),
    )
  })

  test('stand below a level edge, and on the other side of a step up', () => {
    const level = {
      edge: [
        [0, 20],
        [400, 20],
      ] as const,
      floor: 164,
      ceiling: 0,
      right: 400,
    }
    expect(placeLabels([{ along: 100, ...sizes }], level, [])).toEqual([
      { left: 108, top: 25, ...sizes },
    ])
    const rising = {
      edge: [
        [0, 155],
        [110, 155],
        [130, 5],
        [400, 5],
      ] as const,
      floor: 164,
      ceiling: 0,
      right: 400,
    }
    const [box] = placeLabels([{ along: 100, ...sizes }], rising, [])
    expect(box!.left + box!.width).toBeLessThan(100)
  })

  const edgeAt = (edge: [number, number][], at: number): number => {
    const k = edge.findIndex(([x]) => x >= at)
    if (k <= 0) return edge[Math.max(0, k)]![1]
    const [a, b] = [edge[k - 1]!, edge[k]!]
    return a[1] + ((b[1] - a[1]) * (at - a[0])) / (b[0] - a[0])
  }
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
