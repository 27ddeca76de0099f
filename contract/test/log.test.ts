import { describe, expect, test } from 'vitest'
import {
  chainDocumentSchema,
  eventBodySchema,
  instrumentSchema,
  measurementBodySchema,
  readingBodySchema,
  readingsQuerySchema,
  worksheetKinds,
} from '../src/index.ts'

/** The first thing a schema has to say, with its place. */
function said(schema: { safeParse: (value: unknown) => unknown }, value: unknown): string {
  const result = schema.safeParse(value) as {
    success: boolean
    error?: { issues: { path: PropertyKey[]; message: string }[] }
  }
  const issue = result.error?.issues[0]
  return issue ? `${issue.path.join('/')}: ${issue.message}` : 'fine'
}

describe('a reading', () => {
  const reading = { frequencyHz: 7e6, mode: 'FM', powerW: 100, before: 'load', forwardW: 90 }

  test('needs a place, a channel’s figures, and power or SWR', () => {
    expect(said(readingBodySchema, reading)).toBe('fine')
    expect(said(readingBodySchema, { ...reading, forwardW: undefined, swr: 1.4 })).toBe('fine')
    expect(said(readingBodySchema, { ...reading, forwardW: undefined })).toMatch(
      /^forwardW: Give the forward power, or an SWR/,
    )
  })

  test.each([
    [{ forwardW: -1 }, /^forwardW: Forward power must be between 0/],
    [{ reflectedW: 95 }, /^reflectedW: As much comes back/],
    [{ swr: 0.5 }, /^swr: SWR must be between 1/],
    [{ frequencyHz: 1 }, /^frequencyHz: Frequency must be between/],
    [{ mode: 'whistling' }, /^mode/],
    [{ before: 'The Mast' }, /^before/],
    [{ by: 'x'.repeat(41) }, /^by: A name may have at most 40/],
    [{ readAt: '2026-04-18' }, /^readAt/],
  ])('%j is told at its field', (change, words) => {
    expect(said(readingBodySchema, { ...reading, ...change })).toMatch(words)
  })

  test('nothing forward and nothing back is a reading too', () => {
    expect(said(readingBodySchema, { ...reading, forwardW: 0, reflectedW: 0 })).toBe('fine')
  })
})

describe('an instrument', () => {
  const meter = {
    name: 'Heron',
    type: 'through-line',
    kind: 'averaging',
    rangesW: [5, 50],
    accuracy: 0.05,
  }

  test.each([
    [{}, /fine/],
    [{ rangesW: [] }, /fine/],
    [{ rangesW: [50, 5] }, /^rangesW: Ranges must rise/],
    [{ rangesW: [0] }, /^rangesW\/0: Range must be between/],
    [{ accuracy: 5 }, /^accuracy/],
    [{ divisions: 2.5 }, /^divisions: Divisions must be a whole number/],
    [{ directivityDb: 1 }, /^directivityDb: Directivity must be between 3 and 80 dB/],
    [{ checkedOn: 'last year' }, /^checkedOn: A date must be written as year-month-day/],
    [{ name: ' ' }, /^name: Instrument name must not be empty/],
  ])('%j', (change, words) => {
    expect(said(instrumentSchema, { ...meter, ...change })).toMatch(words)
  })
})

describe('events, sheets, queries, tolerances', () => {
  test('an event has a day and a word', () => {
    const event = { chainId: 'vhf-mast', on: '2026-01-14', text: 'Storm' }
    expect(said(eventBodySchema, event)).toBe('fine')
    expect(said(eventBodySchema, { ...event, on: '2026-02-30' })).toMatch(/year-month-day/)
    expect(said(eventBodySchema, { ...event, text: '' })).toMatch(/What happened must not be empty/)
  })

  test('a sheet may be large, but not without end', () => {
    const sheet = { kind: 'probe', title: 'Probe', inputs: { volts: 9.4 }, result: null }
    expect(said(measurementBodySchema, sheet)).toBe('fine')
    for (const kind of worksheetKinds)
      expect(said(measurementBodySchema, { ...sheet, kind })).toBe('fine')
    const long = { ...sheet, inputs: { text: 'x'.repeat(100_001) } }
    expect(said(measurementBodySchema, long)).toMatch(/at most 100 000/)
  })

  test('a query is read from text and has bounds', () => {
    expect(readingsQuerySchema.parse({ outside: 'false', offset: '200' })).toEqual({
      outside: false,
      offset: 200,
      limit: 100,
    })
    expect(said(readingsQuerySchema, { limit: '501' })).toMatch(/^limit/)
    expect(said(readingsQuerySchema, { outside: 'perhaps' })).toMatch(/^outside/)
    expect(said(readingsQuerySchema, { from: 'spring' })).toMatch(/year-month-day/)
  })

  test('tolerances are optional, all or none of them', () => {
    const tolerances = chainDocumentSchema
    const problem = said(tolerances, { version: 2, tolerances: { source: 2 } })
    expect(problem).not.toBe('fine')
    const parsed = tolerances.safeParse({ version: 2, tolerances: { source: 2 } })
    const places = parsed.error!.issues.map(({ path }) => path.join('/'))
    expect(places).toEqual(expect.arrayContaining(['tolerances/source', 'tolerances/length']))
  })

  test('how likely causes are is given for all of them, and none is ruled out beforehand', () => {
    const parsed = chainDocumentSchema.safeParse({ version: 3, priors: { none: 0, slip: 0.2 } })
    const issues = parsed.error!.issues.filter(({ path }) => path[0] === 'priors')
    const places = issues.map(({ path }) => path.join('/'))
    expect(places).toEqual(expect.arrayContaining(['priors/none', 'priors/common mode']))
    expect(places).not.toContain('priors/slip')
    expect(issues.find(({ path }) => path[1] === 'none')!.message).toBe(
      'How likely a cause is must be between 0.001 and 1.',
    )
  })
})
