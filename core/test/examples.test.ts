/** The examples in doc comments say what comes out; here they are run. */
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import * as core from '../src/index.ts'

const cable = { z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 2, k2DbPer100m: 0.02 }
const line = { kind: 'line', lengthM: 30, cable } as const
/** What examples speak of by name: 30 m of one cable between 100 W and 100 Ω, on 10 MHz. */
const scope = {
  ...core,
  cable,
  line,
  chain: {
    transmitter: { behaviour: 'levelled', foldback: [] },
    stages: [line],
    load: { kind: 'fixed', rOhm: 100, xOhm: 0 },
  },
  at: { frequencyHz: 10e6, powerW: 100 },
  meter: core.usualMeter,
  amplifier: {
    kind: 'amplifier',
    gainDb: 13,
    driveW: 50,
    fullW: 800,
    behaviour: 'peaked',
    foldback: [],
    inputOhm: { rOhm: 75, xOhm: 0 },
  },
}

const root = join(import.meta.dirname, '../src')
const files = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((name) =>
  name.endsWith('.ts'),
)

interface Example {
  file: string
  expression: string
  result: string
}

/** An example is `expression // result`, on one line or on several. */
const EXAMPLE = /@example ((?:(?!\*\/|@\w)[\s\S])*?) \/\/ ([^\n]*)/g

const examples = files.flatMap((file): Example[] =>
  [...readFileSync(join(root, file), 'utf8').matchAll(EXAMPLE)].map(([, expression, result]) => ({
    file,
    expression: expression!.replaceAll(/\n\s*\*/g, ' '),
    result: result!,
  })),
)

/** An internal function's example sees what its own file exports. */
async function evaluate(text: string, file: string): Promise<unknown> {
  const names = { ...scope, ...((await import(join(root, file))) as object) }
  // oxlint-disable-next-line typescript/no-implied-eval -- examples are run as they stand
  const run = new Function(...Object.keys(names), `return (${text})`) as (
    ...args: unknown[]
  ) => unknown
  return run(...Object.values(names))
}

/** Plain: spaces that do not break as spaces, numbers to four digits. */
function plain(value: unknown): unknown {
  if (typeof value === 'number' && Number.isFinite(value)) return Number(value.toPrecision(4))
  if (typeof value === 'string') return value.replaceAll('\u00a0', ' ')
  if (value === null || typeof value !== 'object') return value
  if (Array.isArray(value) || ArrayBuffer.isView(value))
    return Array.from(value as Iterable<unknown>, plain)
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, plain(each)]))
}

describe('examples in doc comments', () => {
  test('there are many', () => expect(examples.length).toBeGreaterThan(80))

  test.each(examples)('$file: $expression', async ({ file, expression, result }) => {
    expect(plain(await evaluate(expression, file))).toEqual(plain(await evaluate(result, file)))
  })
})

/** What a file gives away: functions and classes. */
const EXPORTED =
  /^export (?:async )?(?:function\*?|class|const \w+ = (?:async )?(?:<[^>]*>)?\() ?\w*/

test('whatever a file gives away says what it is', () => {
  const silent = files.flatMap((file) => {
    const lines = readFileSync(join(root, file), 'utf8').split('\n')
    return lines.flatMap((line, i) =>
      EXPORTED.test(line) && !lines[i - 1]?.endsWith('*/') ? [`${file}: ${line}`] : [],
    )
  })
  expect(silent).toEqual([])
})
