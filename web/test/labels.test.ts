/** Figures beside the band: never on its edge, never on each other. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { type Box, type Label, placeLabels, type Surface } from '../src/spine/labels.ts'

const flat = (y: number): Surface => ({
  edge: [
    [0, y],
    [400, y],
  ],
  floor: 200,
  ceiling: 0,
  right: 400,
})
const label = (along: number, width = 40, height = 14): Label => ({ along, width, height })

describe('a figure', () => {
  test('stands below the edge on the antenna side of its plane', () => {
    expect(placeLabels([label(100)], flat(60), [])).toEqual([
      { left: 108, top: 65, width: 40, height: 14 },
    ])
  })
  test('stands above it where there is no room below', () => {
    // Two pixels stay free at the floor.
    expect(placeLabels([label(100)], flat(180), [])).toEqual([
      { left: 108, top: 161, width: 40, height: 14 },
    ])
    expect(placeLabels([label(100)], flat(179), [])[0]).toMatchObject({ top: 184 })
  })
  test('stands on the transmitter side at the right end', () => {
    expect(placeLabels([label(380)], flat(60), [])).toEqual([
      { left: 332, top: 65, width: 40, height: 14 },
    ])
  })
  test('is left out where there is no room at all', () => {
    expect(placeLabels([label(100, 40, 300)], flat(60), [])).toEqual([null])
    expect(placeLabels([label(100, 400)], flat(60), [])).toEqual([null])
  })
  test('gives way to what stands there already, and to one of more importance', () => {
    const taken: Box = { left: 100, top: 60, width: 60, height: 30 }
    expect(placeLabels([label(100)], flat(60), [taken])[0]).toMatchObject({ left: 108, top: 41 })
    const [first, second] = placeLabels([label(100), label(110)], flat(60), [])
    expect(first).toMatchObject({ left: 108, top: 65 })
    expect(second).toMatchObject({ left: 118, top: 41 })
  })
  test('keeps clear of an edge that falls beside it', () => {
    const falling: Surface = {
      ...flat(0),
      edge: [
        [0, 40],
        [110, 40],
        [130, 120],
        [400, 120],
      ],
    }
    expect(placeLabels([label(100)], falling, [])[0]!.top).toBe(125)
  })
})

test('whatever the edge and the figures, none touches the edge or another one', () => {
  const edges = fc
    .array(fc.tuple(fc.integer({ min: 5, max: 60 }), fc.integer({ min: 0, max: 200 })), {
      minLength: 2,
      maxLength: 12,
    })
    .map((steps) => {
      let x = 0
      return steps.map(([dx, y], i): [number, number] => [(x += i === 0 ? 0 : dx), y])
    })
  fc.assert(
    fc.property(
      edges,
      fc.array(
        fc.record({
          along: fc.integer({ min: 0, max: 400 }),
          width: fc.integer({ min: 10, max: 80 }),
          height: fc.integer({ min: 8, max: 30 }),
        }),
        { maxLength: 8 },
      ),
      (edge, labels) => {
        const right = edge.at(-1)![0]
        const placed = placeLabels(labels, { edge, floor: 200, ceiling: 0, right }, [])
        const boxes = placed.filter((box) => box !== null)
        const at = (x: number) => {
          const i = Math.max(
            0,
            edge.findLastIndex(([own]) => own <= x),
          )
          const [x0, y0] = edge[i]!
          const [x1, y1] = edge[i + 1] ?? edge[i]!
          return x1 === x0 ? y0 : y0 + ((y1 - y0) * (x - x0)) / (x1 - x0)
        }
        for (const [i, box] of boxes.entries()) {
          expect(box.left).toBeGreaterThanOrEqual(0)
          expect(box.left + box.width).toBeLessThanOrEqual(right)
          expect(box.top).toBeGreaterThanOrEqual(0)
          expect(box.top + box.height).toBeLessThanOrEqual(198)
          // Looked at pixel by pixel.
          for (let x = box.left; x <= box.left + box.width; x++) {
            const y = at(x)
            expect(y < box.top || y > box.top + box.height).toBe(true)
          }
          for (const other of boxes.slice(i + 1)) {
            const apart =
              box.left + box.width <= other.left ||
              other.left + other.width <= box.left ||
              box.top + box.height <= other.top ||
              other.top + other.height <= box.top
            expect(apart).toBe(true)
          }
        }
      },
    ),
  )
})
