/** Charts as data: what is drawn, where names stand, what a point says; the drawing itself is looked at in the browser. */
import { frequencyGrid, sweepBand } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { bandChart } from '../../src/lenses/budget/bandChart.ts'
import { curvesChart } from '../../src/lenses/compare/curvesChart.ts'
import { frontChart } from '../../src/lenses/compare/frontChart.ts'
import { antennaChart } from '../../src/lenses/antenna/antennaChart.ts'
import { antennaView } from '../../src/lenses/antenna/antennaView.ts'
import { quantityOf } from '../../src/model/yearWords.ts'
import { yearChart } from '../../src/lenses/log/yearChart.ts'
import { lossChart } from '../../src/pages/gear/lossChart.ts'
import { chainOfDocument } from '../../src/model/answers.ts'
import { type Chart, colours, readingOf, tableRows } from '../../src/ui/chart/chart.ts'
import { optionOf, type Palette, plotsOf } from '../../src/ui/chart/option.ts'
import { hoverOf, pointedAt } from '../../src/ui/chart/hover.ts'
import { overlayOf } from '../../src/ui/chart/overlay.ts'
import { HEIGHT, LETTER, overlap, placeLabels, type Point } from '../../src/ui/chart/placeLabels.ts'
import { document as chainDocument } from '../fixtures.ts'

const palette = Object.fromEntries(colours.map((name) => [name, `#${name}`])) as Palette
const plot = { left: 0, top: 0, width: 400, height: 200 }

const plain: Chart = {
  description: 'made up',
  x: [1, 2, 3],
  xAxis: { name: 'MHz', min: 1, max: 3 },
  yAxes: [{ name: 'watts', min: 0 }],
  headOf: (i) => `point ${i}`,
  curves: [
    { name: 'a', y: [10, NaN, 30], colour: 'tide', read: (v) => `<b>${v} W`, labelled: true },
    { name: 'dots', x: [1.5], y: [20], colour: 'ink', width: 0, dots: 6, read: String },
  ],
}

describe('a point is read', () => {
  test('its head, then each curve that has a figure there; points of another row are not', () => {
    expect(readingOf(plain, 0)).toEqual(['point 0', '<b>10 W'])
    expect(readingOf(plain, 1)).toEqual(['point 1'])
  })

  test('where the pointer is, as text and never as markup; nothing beside the drawing', () => {
    const toPixel = (_: number, x: number, y: number): Point => [(x - 1) * 200, 200 - y * 5]
    const drawn = { chart: plain, toPixel, plots: [plot] }
    expect(hoverOf(drawn, [500, 20], palette)).toEqual([])
    expect(hoverOf(drawn, [210, 20], palette)[1]!.textContent).toBe('point 1')
    const [line, box] = hoverOf(drawn, [390, 20], palette)
    expect(line!.style.left).toBe('400px')
    expect(box!.style.transform).toBe('translate(-100%, 0)')
    // In the lower half it stands over the pointer: what leaves the chart is not seen.
    const [, low] = hoverOf(drawn, [10, plot.top + plot.height - 5], palette)
    expect(low!.style.transform).toBe('translate(0, -100%)')
    expect(box!.textContent).toBe('point 2<b>30 W')
    expect(box!.querySelector('b')).toBeNull()
    expect((box!.firstChild as HTMLElement).style.fontWeight).toBe('bold')
  })

  test('the nearest along the axis, or the nearest of all, gaps left out', () => {
    const at: Point[] = [
      [0, 100],
      [10, 0],
      [20, 100],
    ]
    expect(pointedAt(plain, at, [9, 99])).toBe(1)
    expect(pointedAt({ ...plain, readAt: 'point' }, at, [9, 99])).toBe(0)
    expect(pointedAt(plain, [at[0]!, null, at[2]!], [11, 0])).toBe(2)
  })

  test('in a table: thirteen rows, the first and the last among them', () => {
    const rows = tableRows(241)
    expect([rows.length, rows[0], rows.at(-1)]).toEqual([13, 0, 240])
  })
})

describe('what is drawn', () => {
  test('gaps stay gaps, dots have no line, and each series has a name of its own', () => {
    const { series } = optionOf(plain, palette, plotsOf(plain, 500, 300))
    expect(series[0]).toMatchObject({
      id: 'curve 0',
      data: [
        [1, 10],
        [2, null],
        [3, 30],
      ],
      lineStyle: { color: '#tide', width: 2, type: 'solid' },
      showSymbol: false,
    })
    expect(series[1]).toMatchObject({
      id: 'curve 1',
      lineStyle: { width: 0 },
      showSymbol: true,
      symbolSize: 6,
      silent: true,
    })
  })

  test('an area is its lower edge and its height on top', () => {
    const chart = {
      ...plain,
      areas: [{ x: [1, 3], low: [2, 3], high: [5, 9], colour: 'tide-fill' as const }],
    }
    const { series } = optionOf(chart, palette, plotsOf(chart, 500, 300))
    expect(series.slice(2)).toMatchObject([
      {
        data: [
          [1, 2],
          [3, 3],
        ],
        stack: 'area 0',
      },
      {
        data: [
          [1, 3],
          [3, 6],
        ],
        stack: 'area 0',
        areaStyle: { color: '#tide-fill' },
      },
    ])
  })

  test('a second axis stands on the right, or has a drawing of its own below', () => {
    const two = { ...plain, yAxes: [{ name: 'watts' }, { name: 'SWR' }] }
    const [only, ...none] = plotsOf(two, 500, 300)
    expect(none).toEqual([])
    expect(only!.width).toBeLessThan(plotsOf(plain, 500, 300)[0]!.width)
    const [upper, lower] = plotsOf({ ...two, below: true }, 500, 300)
    expect(lower!.top).toBeGreaterThan(upper!.top + upper!.height)
    expect(lower!.top + lower!.height).toBe(300 - 38)
    const { series, xAxis } = optionOf({ ...two, below: true }, palette, [upper!, lower!])
    expect(xAxis).toHaveLength(2)
    expect(series[0]).toMatchObject({ xAxisIndex: 0, yAxisIndex: 0 })
  })

  test('marks through the drawing and names on the curves; a mark beside the drawing is not drawn', () => {
    const chart: Chart = {
      ...plain,
      marks: [
        { x: 2, colour: 'ink', label: 'channel' },
        { x: 9, colour: 'heat', label: 'beyond' },
        { y: 20, colour: 'muted', dash: 'dashed', label: 'limit' },
      ],
    }
    const toPixel = (_: number, x: number, y: number): Point => [(x - 1) * 200, 200 - y * 5]
    chart.curves = [{ ...plain.curves[0]!, x: [1, 1.5, 2, 2.5, 3], y: [8, 9, 10, 9, 8] }]
    const drawn = overlayOf(chart, toPixel, [plot], palette)
    const texts = drawn.filter(({ tagName }) => tagName === 'text').map((t) => t.textContent)
    expect(texts).toEqual(['channel', 'limit', 'a'])
    const lines = drawn.filter(({ tagName }) => tagName === 'line')
    expect(lines.map((l) => l.getAttribute('x1'))).toEqual(['200', '0'])
    expect(lines[1]!.getAttribute('y1')).toBe('100')
    expect(lines[1]!.getAttribute('stroke-dasharray')).not.toBe('')
  })
})

test('labels of marks that stand close together do not lie on each other', () => {
  const label = 'joint at the mast head made anew'
  const marks = [1.9, 2, 2.1].map((x) => ({ x, label, colour: 'heat' as const }))
  const toPixel = (_: number, x: number, y: number): Point => [(x - 1) * 200, 200 - y * 5]
  const boxes = overlayOf({ ...plain, marks }, toPixel, [plot], palette)
    .filter(({ tagName, textContent }) => tagName === 'text' && textContent === label)
    .map((text) => {
      const width = label.length * LETTER
      const left = Number(text.getAttribute('x')) - width / 2
      return { left, top: Number(text.getAttribute('y')) - 12, width, height: HEIGHT }
    })
  expect(boxes).toHaveLength(3)
  // The first stands over its mark.
  expect(boxes[0]!.left + boxes[0]!.width / 2).toBeCloseTo(180, 0)
  for (const [i, box] of boxes.entries())
    for (const other of boxes.slice(i + 1)) expect(overlap(box, other)).toBe(false)
})

describe('names on curves', () => {
  const flat = (y: number): Point[] => Array.from({ length: 81 }, (_, i) => [i * 5, y])
  test('stand over the middle of their curve where nothing is in the way', () => {
    const [name] = placeLabels([{ name: 'alone', line: flat(100) }], plot)
    expect(name!.left + name!.width / 2).toBeCloseTo(200, 0)
    expect(name!.top + name!.height).toBeLessThan(100)
  })

  test('do not meet each other, nor another curve, nor leave the drawing', () => {
    const curves = [0, 12, 24, 36].map((up) => ({ name: `curve ${up}`, line: flat(100 - up) }))
    const placed = placeLabels(curves, plot)
    expect(placed.length).toBeGreaterThan(1)
    for (const a of placed)
      for (const b of placed)
        if (a !== b)
          expect(
            a.left >= b.left + b.width ||
              b.left >= a.left + a.width ||
              a.top >= b.top + b.height ||
              b.top >= a.top + a.height,
          ).toBe(true)
    const apart = placeLabels(
      [
        { name: 'low', line: flat(150) },
        { name: 'high', line: flat(135) },
      ],
      plot,
    )
    // Under the low one, over the high one: between them there is no room.
    expect(apart[0]!.top).toBeGreaterThan(150)
    expect(apart[1]!.top).toBeLessThan(135)
    for (const y of [1, 199]) {
      const [name] = placeLabels([{ name: 'at the edge', line: flat(y) }], plot)
      expect(name!.top).toBeGreaterThanOrEqual(0)
      expect(name!.top + name!.height).toBeLessThanOrEqual(200)
    }
  })

  test('that find no place are left out', () => {
    expect(placeLabels([{ name: 'long'.repeat(30), line: flat(100) }], plot)).toEqual([])
    expect(placeLabels([{ name: 'nothing', line: [] }], plot)).toEqual([])
  })
})

describe('each chart', () => {
  const chain = chainOfDocument(chainDocument, undefined)!
  const grid = frequencyGrid(4e6, 4.3e6, 41)
  const sweep = sweepBand(chain, grid, 100, 4.146e6)

  test('the band: watts on the left, SWR on the right, the channel marked', () => {
    const all = { channelHz: 4.146e6, antennaSwr: true, power: 'W', description: 'Band' } as const
    const chart = bandChart(sweep, all)
    expect(chart.curves.map(({ name, axis }) => [name, axis ?? 0])).toEqual([
      ['watts at the antenna', 0],
      ['SWR at the radio', 1],
      ['SWR at the antenna', 1],
    ])
    expect(chart.marks).toEqual([{ x: 4.146, colour: 'ink', label: '4.146' }])
    expect(chart.xAxis).toMatchObject({ min: 4, max: 4.3 })
    expect(readingOf(chart, 0)).toEqual([
      expect.stringMatching(/^4.*MHz$/),
      expect.stringMatching(/W at the antenna$/),
      expect.stringMatching(/^SWR 1\.\d+ at the radio$/),
      expect.stringMatching(/^SWR 1\.0+ at the antenna$/),
    ])
    expect(bandChart(sweep, { ...all, antennaSwr: false }).curves).toHaveLength(2)
    const unsure = { ...sweep, antennaWHigh: sweep.antennaWHigh.map((w) => w * 1.1) }
    expect(bandChart(unsure, all).curves.filter(({ name }) => name === 'bound')).toHaveLength(2)
  })

  test('alternatives: one without figures is a gap, the chosen one is strong', () => {
    const chart = curvesChart(
      { frequencyHz: grid, antennaW: [sweep.antennaW, null] },
      ['as it stands', 'other'],
      { chosen: 1, channelHz: 4.146e6, power: 'W' },
    )
    expect(chart.curves.map(({ width, colour }) => [width, colour])).toEqual([
      [1.6, 'ink'],
      [3, 'tide'],
    ])
    expect(readingOf(chart, 3)).toHaveLength(2)
  })

  test('a plan: each point by what it costs and loses', () => {
    const member = { cables: [], place: null, cost: 120, lossDb: 1.5, antennaW: [70] }
    const chart = frontChart([member], ['As it stands'], 'EUR')
    expect(chart.readAt).toBe('point')
    expect(readingOf(chart, 0)).toEqual(['As it stands', '120 EUR, 1.5\u00a0dB'])
  })

  test('the antenna: SWR above, R and X below, and the limit across', () => {
    const view = antennaView(
      chain,
      { lowHz: 4e6, highHz: 4.3e6 },
      { powerW: 100, tunedHz: 4.1e6 },
      2,
    )!
    const chart = antennaChart(view, 4.146e6, 2, 'Vee')
    expect(chart.below).toBe(true)
    expect(chart.curves.map(({ name, axis }) => [name, axis ?? 0])).toEqual([
      ['at the feed point', 0],
      ['at the radio', 0],
      ['R', 1],
      ['X', 1],
    ])
    expect(chart.marks![1]).toMatchObject({ y: 2, label: 'limit 2.00' })
    expect(readingOf(chart, 0).at(-1)).toMatch(/50/)
    const bare = antennaChart({ ...view, phaseKnown: false }, 4.146e6, 2, 'Vee')
    expect([bare.below, bare.curves.length, bare.yAxes.length]).toEqual([false, 2, 1])
  })

  test('years: readings, what was expected, levels, and what happened within them', () => {
    const day = 86_400_000
    const points = [0, 1, 2, 3].map((k) => ({
      at: k * 100 * day,
      value: 1 + k * 0.1,
      expected: k === 3 ? null : 1,
      low: k === 3 ? null : 0.8,
      high: k === 3 ? null : 1.2,
    }))
    const loss = { kind: 'loss' as const, from: 'a', to: 'b' }
    const series = {
      points,
      levels: [{ from: 0, to: 4, level: 1.1 }],
      change: null,
      trend: null,
    } as unknown as Parameters<typeof yearChart>[0]
    const on = (k: number) => new Date(k * 100 * day).toISOString().slice(0, 10)
    const events = [1, 9].map((k) => ({ id: `e${k}`, chainId: 'c', on: on(k), text: `event ${k}` }))
    const chart = yearChart(series, quantityOf(loss), events, [], 'Loss')
    expect(chart.curves.map(({ name }) => name)).toEqual(['readings', 'expected', 'level'])
    expect(chart.areas![0]!.x).toHaveLength(3)
    expect(chart.marks!.map(({ label }) => label)).toEqual(['event 1'])
    expect(readingOf(chart, 1).slice(1)).toEqual(['1.10\u00a0dB', 'expected 1.00\u00a0dB'])
    expect(readingOf(chart, 3)).toHaveLength(2)
  })

  test('loss of cables: as far as each is known, and the points of its data sheet', () => {
    const cable = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 1, k2DbPer100m: 0 }
    const chart = lossChart(
      [
        { name: 'thick', cable: { ...cable, maxHz: 1e9 } },
        { name: 'thin', cable: { ...cable, k1DbPer100m: 2, maxHz: 1e8 }, points: [[10, 6.3]] },
      ],
      'Loss',
    )
    expect(chart.curves.map(({ name }) => name)).toEqual(['thick', 'thin', 'thin, data sheet'])
    expect(readingOf(chart, 0).slice(1)).toEqual(['thick: 1.00 dB', 'thin: 2.00 dB'])
    expect(readingOf(chart, 80).slice(1)).toEqual(['thick: 31.62 dB'])
  })
})
