/** What is sent besides chains: runs and their sheets, live figures, who reads where, tokens, alternatives. */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { z } from 'zod'
import {
  alternativeSchema,
  joinSchema,
  limits,
  liveBodySchema,
  newId,
  plainText,
  presenceBodySchema,
  runSheetSchema,
  runStepSchema,
  signInSchema,
  tokenBodySchema,
} from '../src/index.ts'
import { line, lines } from '../src/text.ts'

/** Where and why a value is refused; nothing where it is taken. */
const faults = (schema: z.ZodType, value: unknown): string[] =>
  (schema.safeParse(value).error?.issues ?? []).map(({ path }) => path.join('/'))

describe('a step of a run', () => {
  const step = { id: 'read-1', channelId: 'c1', kind: 'read', title: 'Forward and reflected' }

  test('needs an id, a channel, a kind and a title', () => {
    expect(faults(runStepSchema, step)).toEqual([])
    for (const key of Object.keys(step))
      expect(faults(runStepSchema, { ...step, [key]: undefined })).toEqual([key])
  })

  test.each<[object, string[]]>([
    [{ kind: 'dance' }, ['kind']],
    [{ title: 'x'.repeat(161) }, ['title']],
    [{ seconds: 0.1 }, []],
    [{ seconds: 0.09 }, ['seconds']],
    [{ seconds: 86_400 }, []],
    [{ seconds: 86_401 }, ['seconds']],
    [{ mostSwr: 0.9 }, ['mostSwr']],
    [{ mostSwr: 1 }, []],
    [{ state: { share: 1, tuner: 'set', amplifier: 'on', load: 'cable', carrier: true } }, []],
    [{ state: { share: 1.01 } }, ['state/share']],
    [{ state: { tuner: 'in' } }, ['state/tuner']],
    [{ state: { watts: limits.powerW[1] * 2 } }, ['state/watts']],
    [{ makes: { tuner: 'in', amplifier: 'bypass', power: 'down' } }, []],
    [{ makes: { tuner: 'set' } }, ['makes/tuner']],
    [{ makes: { power: 'up' } }, ['makes/power']],
    [{ when: 'tuner in use', on: 'highest', tunes: 'amplifier' }, []],
    [{ when: 'it rains' }, ['when']],
    [
      {
        choices: [
          { label: 'Yes', backTo: 'read-1' },
          { label: 'No', end: 'stopped' },
        ],
      },
      [],
    ],
    [{ choices: [{ label: 'Yes', end: 'later' }] }, ['choices/0/end']],
    [{ choices: Array.from({ length: 9 }, () => ({ label: 'x' })) }, ['choices']],
  ])('%j', (more, at) => expect(faults(runStepSchema, { ...step, ...more })).toEqual(at))
})

describe('a sheet of the station’s own', () => {
  const step = (id: string, more: object = {}) => ({ id, kind: 'do', title: id, ...more })
  const sheet = (...steps: object[]) => ({ name: 'Own', version: 1, needs: [], steps })

  test('needs a step, and may have loops', () => {
    expect(faults(runSheetSchema, sheet(step('a')))).toEqual([])
    expect(
      faults(
        runSheetSchema,
        sheet({ over: 'levels', levels: [0.25, 1], steps: [step('a')] }, step('b')),
      ),
    ).toEqual([])
    expect(faults(runSheetSchema, sheet())).toEqual(['steps'])
    expect(runSheetSchema.parse(sheet(step('a'))).purpose).toBe('')
  })

  test('each step has an id of its own, in loops as well', () => {
    expect(faults(runSheetSchema, sheet(step('a'), step('a')))).toEqual(['steps/1'])
    expect(
      faults(runSheetSchema, sheet(step('a'), { over: 'channels', steps: [step('b'), step('a')] })),
    ).toEqual(['steps/2'])
  })

  test('a sweep is asked for with the key up alone: an analyser and power never meet', () => {
    const sweep = { of: 'line', farEnd: 'antenna' }
    expect(faults(runSheetSchema, sheet(step('a', { kind: 'do', sweep })))).toEqual([])
    for (const keyed of [{ kind: 'read' }, { kind: 'hold' }, { kind: 'do', seconds: 5 }])
      expect(faults(runSheetSchema, sheet(step('b'), step('a', { ...keyed, sweep })))).toEqual([
        'steps/1',
      ])
    expect(
      faults(
        runSheetSchema,
        sheet(step('a', { kind: 'do', sweep: { of: 'air', farEnd: 'open' } })),
      ),
    ).toHaveLength(1)
  })

  test('a choice leads back to a step in front of it, never to itself or ahead', () => {
    const back = (to: string) => step('b', { choices: [{ label: 'again', backTo: to }] })
    expect(faults(runSheetSchema, sheet(step('a'), back('a'), step('c')))).toEqual([])
    for (const to of ['b', 'c', 'gone'])
      expect(faults(runSheetSchema, sheet(step('a'), back(to), step('c')))).toEqual(['steps/1'])
  })

  test.each<[object, boolean]>([
    [{ version: 0 }, false],
    [{ version: 2 }, true],
    [{ needs: ['hand tuner', 'amplifier'] }, true],
    [{ needs: ['luck'] }, false],
    [{ copiedFrom: 'yearly' }, true],
    [{ copiedFrom: 'Not An Id' }, false],
    [{ name: '' }, false],
  ])('%j', (more, taken) =>
    expect(runSheetSchema.safeParse({ ...sheet(step('a')), ...more }).success).toBe(taken),
  )
})

describe('a live figure', () => {
  test.each<[object, string[]]>([
    [{}, []],
    [{ forwardW: 0 }, []],
    [{ forwardW: -1 }, ['forwardW']],
    [{ forwardW: limits.shownW[1] }, []],
    [{ forwardW: limits.shownW[1] * 1.01 }, ['forwardW']],
    [{ forwardW: 'much' }, ['forwardW']],
    [{ forwardW: NaN }, ['forwardW']],
    [{ reflectedW: 1, swr: 1.2, supplyV: 13.8, instrumentId: 'meter' }, []],
    [{ reflectedW: 60 }, ['reflectedW']],
    [{ swr: 0.5 }, ['swr']],
    [{ at: '2026-05-01T08:00:00.000Z' }, []],
    [{ at: 'yesterday' }, ['at']],
    [{ instrumentId: '../etc' }, ['instrumentId']],
  ])('%j', (more, at) => expect(faults(liveBodySchema, { forwardW: 50, ...more })).toEqual(at))
  test('needs forward power', () =>
    expect(faults(liveBodySchema, { swr: 1.2 })).toEqual(['forwardW']))
})

describe('who reads where', () => {
  const here = { by: 'Skua', channelId: 'c8', before: 'load' }
  test('a place, or nothing where a window has stopped', () => {
    expect(presenceBodySchema.parse(here)).toEqual(here)
    expect(presenceBodySchema.parse({ ...here, by: '', before: 'duct' })).toBeTruthy()
    expect(presenceBodySchema.parse(null)).toBeNull()
    // The window is in the address.
    expect(presenceBodySchema.parse({ ...here, window: 'mast' })).toEqual(here)
  })
  test.each([{ before: '<b>' }, { channelId: '' }, { by: 'x'.repeat(500) }])('%j', (more) =>
    expect(presenceBodySchema.safeParse({ ...here, ...more }).success).toBe(false),
  )
})

describe('access', () => {
  test.each<[z.ZodType, unknown, boolean]>([
    [signInSchema, { passphrase: 'four quiet herons' }, true],
    [signInSchema, { passphrase: '' }, false],
    [signInSchema, { passphrase: 'x'.repeat(201) }, false],
    [signInSchema, {}, false],
    [joinSchema, { code: 'ABCD-EFGH' }, true],
    [joinSchema, { code: 'x'.repeat(41) }, false],
    [tokenBodySchema, { name: 'mast meter', scope: 'enter', passphrase: 'x' }, true],
    [tokenBodySchema, { name: 'mast meter', scope: 'enter' }, false],
    [tokenBodySchema, { name: '', scope: 'enter', passphrase: 'x' }, false],
    [tokenBodySchema, { name: 'm', scope: 'live', chainId: 'c', passphrase: 'x' }, true],
    [tokenBodySchema, { name: 'mast meter', scope: 'root', passphrase: 'x' }, false],
    [tokenBodySchema, { name: 'x'.repeat(61), scope: 'read' }, false],
  ])('%#', (schema, value, taken) => expect(schema.safeParse(value).success).toBe(taken))
})

describe('an alternative', () => {
  const of = (...changes: object[]) => ({ id: 'a', name: 'A', changes })
  const pad = { id: 'p', kind: 'pad', part: 'attenuator', name: 'Pad', lossDb: 3 }
  test.each<[object, boolean]>([
    [{ kind: 'length', stageId: 'run', lengthM: 40 }, true],
    [{ kind: 'length', stageId: 'run', lengthM: -1 }, false],
    [{ kind: 'replace', stageId: 'run', stage: pad }, true],
    [{ kind: 'insert', stage: pad, behind: null }, true],
    [{ kind: 'insert', stage: pad, behind: 'run' }, true],
    [{ kind: 'insert', stage: { ...pad, lossDb: -3 }, behind: null }, false],
    [{ kind: 'move', stageId: 'run', behind: null }, true],
    [{ kind: 'move', behind: null }, false],
    [{ kind: 'remove', stageId: 'run' }, true],
    [{ kind: 'power', powerW: 100 }, true],
    [{ kind: 'power', powerW: -100 }, false],
    [{ kind: 'antenna', load: { kind: 'swr', name: 'Whip', swr: 2 } }, true],
    [{ kind: 'antenna', load: { kind: 'swr', name: 'Whip', swr: 0.2 } }, false],
    [{ kind: 'paint', colour: 'red' }, false],
  ])('%j', (change, taken) => expect(alternativeSchema.safeParse(of(change)).success).toBe(taken))
  test('of twenty changes at most, and a price that is none below nothing', () => {
    const many = Array.from({ length: 21 }, () => ({ kind: 'power', powerW: 1 }))
    expect(alternativeSchema.safeParse(of(...many.slice(1))).success).toBe(true)
    expect(alternativeSchema.safeParse(of(...many)).success).toBe(false)
    expect(alternativeSchema.safeParse({ ...of(), otherPrice: -1 }).success).toBe(false)
  })
})

describe('text', () => {
  const one = line('A name', 20)
  const more = lines('A note', 20)
  test('of one line has no line ends, of several it has plain ones', () => {
    expect(one.safeParse('two\nlines').success).toBe(false)
    expect(more.parse('two\r\nlines\r')).toBe('two\nlines')
    expect(more.parse('a\tb')).toBe('a\tb')
    expect(one.safeParse('a\tb').success).toBe(false)
    expect(one.parse('  Tern  ')).toBe('Tern')
  })
  test('without what no screen shows, and it is named by its code', () => {
    for (const stray of ['\u0000', '\u0007', '\u2028', '\ud800']) {
      const { error } = one.safeParse(`a${stray}b`)
      const code = `U+${stray.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}`
      expect(error!.issues[0]!.message).toContain(code)
    }
  })
  test('is no longer than it may be', () => {
    expect(one.safeParse('x'.repeat(20)).success).toBe(true)
    expect(one.safeParse('x'.repeat(21)).error!.issues[0]!.message).toBe(
      'A name may have at most 20 characters.',
    )
    expect(one.safeParse(3).error!.issues[0]!.message).toBe('A name must be text.')
  })
  test('whatever it was, what is let through is taken, and stays as it is', () => {
    const long = lines('A note', 10_000)
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 200 }), (text) => {
        const plain = plainText(text)
        expect(long.safeParse(plain).success).toBe(true)
        expect(plainText(plain)).toBe(plain)
      }),
      { numRuns: 30 },
    )
  })
})

test('an id is taken wherever one is wanted', () => {
  for (let i = 0; i < 200; i++)
    expect(faults(presenceBodySchema, { by: '', channelId: newId(), before: newId() })).toEqual([])
})
