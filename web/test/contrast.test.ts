import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'

// Text in drawings lies over fills, where a page's checker cannot measure it; the palette can be.

const css = readFileSync(new URL('../src/styles.css', import.meta.url), 'utf8')

/** The colours that a rule of the style sheet sets, by name. */
const coloursAfter = (start: number) =>
  Object.fromEntries(
    [...css.slice(start, css.indexOf('}', start)).matchAll(/--([\w-]+): (#[0-9a-f]{6});/g)].map(
      ([, name, hex]) => [name!, hex!],
    ),
  )

const themes = {
  day: coloursAfter(css.indexOf('--paper')),
  night: coloursAfter(css.indexOf('--paper', css.indexOf("'night'"))),
}

/** Relative luminance by WCAG 2.2. */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const c = parseInt(hex.slice(at, at + 2), 16) / 255
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4
  })
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!
}

const contrast = (a: string, b: string) => {
  const [low, high] = [luminance(a), luminance(b)].toSorted((x, y) => x - y)
  return (high! + 0.05) / (low! + 0.05)
}

const onPage = ['sheet', 'paper']
const onBand = [...onPage, 'tide-fill', 'tide-fill-deep', 'heat-fill']

/** What is written, and what it may lie on. */
const pairs: [ink: string, grounds: string[]][] = [
  ['ink', onBand],
  ['muted', onPage],
  ['tide', onPage],
  ['heat', onPage],
  ['returned', onPage],
  ['caution', onPage],
  ['danger', onPage],
]

describe.each(Object.entries(themes))('by %s', (_, colours) => {
  it.each(pairs.flatMap(([ink, grounds]) => grounds.map((ground) => [ink, ground] as const)))(
    '%s can be read on %s',
    (ink, ground) => expect(contrast(colours[ink]!, colours[ground]!)).toBeGreaterThanOrEqual(4.5),
  )

  it.each(onPage)('a field has an edge that is seen on %s', (ground) =>
    expect(contrast(colours['edge']!, colours[ground]!)).toBeGreaterThanOrEqual(3),
  )
})
