/** Where a stage lands that is dragged along its row, and how the others make room. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { landsAt, shiftsOf } from '../src/spine/useRowDrag.ts'

const widths = [100, 50, 200, 80]

describe('a piece that is dragged', () => {
  test('lands where its middle has passed the middles of others', () => {
    expect(landsAt(widths, { from: 0, dx: 0 })).toBe(0)
    // Middle of the first at 50; of the second at 125, of the third at 250, of the last at 390.
    expect(landsAt(widths, { from: 0, dx: 74 })).toBe(0)
    expect(landsAt(widths, { from: 0, dx: 76 })).toBe(1)
    expect(landsAt(widths, { from: 0, dx: 201 })).toBe(2)
    expect(landsAt(widths, { from: 0, dx: 900 })).toBe(3)
    expect(landsAt(widths, { from: 3, dx: -900 })).toBe(0)
    expect(landsAt(widths, { from: 3, dx: -139 })).toBe(3)
    expect(landsAt(widths, { from: 3, dx: -141 })).toBe(2)
  })

  test('those between make room by its width; nobody moves without a drag', () => {
    expect(shiftsOf(widths, null)).toEqual([0, 0, 0, 0])
    expect(shiftsOf(widths, { from: 0, dx: 201 })).toEqual([201, -100, -100, 0])
    expect(shiftsOf(widths, { from: 3, dx: -300 })).toEqual([0, 80, 80, -300])
  })

  test('however it is dragged, the row stays whole: each piece as wide, none on another', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 10, max: 300 }), { minLength: 1, maxLength: 9 }),
        fc.nat(),
        fc.integer({ min: -3000, max: 3000 }),
        (row, pick, dx) => {
          const drag = { from: pick % row.length, dx }
          const to = landsAt(row, drag)
          const order = row.map((_, k) => k)
          order.splice(to, 0, ...order.splice(drag.from, 1))
          const shifts = shiftsOf(row, drag)
          // Let go, each stands where the row in its new order has it.
          let x = 0
          for (const k of order) {
            const before = row.slice(0, k).reduce((sum, width) => sum + width, 0)
            if (k !== drag.from) expect(before + shifts[k]!).toBe(x)
            x += row[k]!
          }
        },
      ),
    )
  })
})
