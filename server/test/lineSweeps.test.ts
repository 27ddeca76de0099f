import {
  type ChainDocument,
  type LineSweep,
  lineSweepSchema,
  type LineSweepSummary,
  lineSweepSummarySchema,
  newId,
  thingHistorySchema,
} from '@saltline/contract'
import { like } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { insertMany } from '../src/db/many.ts'
import { lineSweeps } from '../src/db/schema.ts'
import { write } from '../src/db/writes.ts'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

const CHAIN = '/api/chains/hf-long-run'
/** A dip at 7.1 MHz: |ρ| 0.05 there, more on both sides. */
const text = (points = 41) =>
  [
    '# MHz S RI R 50',
    ...Array.from({ length: points }, (_, k) => {
      const mhz = 6 + (2.2 * k) / (points - 1)
      return `${mhz.toFixed(4)} ${Math.min(0.9, 0.05 + Math.abs(mhz - 7.1)).toFixed(4)} 0`
    }),
  ].join('\n')
const body = {
  ...{ before: 'desk', farEnd: 'antenna', readAt: '2026-04-18T10:00:00.000Z' },
  ...{ name: 'foot of the mast', by: 'Ada', instrument: 'Analyser', touchstone: text() },
}
const keep = (own: object = {}, id = newId()) =>
  h.call('PUT', `${CHAIN}/line-sweeps/${id}`, { ...body, ...own })
const all = async (): Promise<LineSweepSummary[]> =>
  lineSweepSummarySchema.array().parse((await h.call('GET', `${CHAIN}/line-sweeps`)).body)
const one = async (id: string): Promise<LineSweep> =>
  lineSweepSchema.parse((await h.call('GET', `/api/line-sweeps/${id}`)).body)

describe('a sweep', () => {
  test('is kept with its place, its points as they were, and what it comes to', async () => {
    const { status, body: kept } = await keep()
    expect(status, JSON.stringify(kept)).toBe(200)
    expect(kept).toMatchObject({
      ...{ place: 'input of Desk lead', pointCount: 41, lowHz: 6e6, highHz: 8.2e6 },
      ...{ chainRevision: 1, by: 'Ada' },
    })
    const { figures, frequencyHz, re } = await one(kept.id)
    expect(figures.dips).toHaveLength(1)
    expect(figures.dips[0]!.at.value).toBeCloseTo(7.1e6, -4)
    expect(figures.dips[0]!.swr.value).toBeCloseTo(1.05 / 0.95, 2)
    expect(frequencyHz).toHaveLength(41)
    expect(re[0]).toBe(0.9)
    expect((await all()).map(({ id }) => id)).toContain(kept.id)
    expect(JSON.stringify(await all())).not.toContain('frequencyHz')
  })

  test('brings what its analyser may be off by, and its figures rest on it', async () => {
    const analyser = { directivityDb: 26, sourceMatchDb: 30, noiseDb: 70 }
    const usual = (await keep({ readAt: '2026-04-19T10:00:00.000Z' })).body
    const poor = (await keep({ analyser, readAt: '2026-04-20T10:00:00.000Z' })).body
    expect(usual.analyser).toBeUndefined()
    const of = await one(poor.id)
    expect(of.analyser).toEqual(analyser)
    // |ρ| 0.05 may be off by 0.05 and a little: from matched to an SWR of 1.22.
    expect(of.figures.dips[0]!.swr.high).toBeCloseTo((1 + 0.1) / (1 - 0.1), 2)
    expect(usual.figures.dips[0].swr.high).toBeCloseTo((1 + 0.06) / (1 - 0.06), 2)
    const { status, body: problem } = await keep({ analyser: { ...analyser, noiseDb: -70 } })
    expect([status, problem.errors[0].pointer]).toEqual([422, '/analyser/noiseDb'])
  })

  test('sent twice it is kept once, as it came first; from a program without an identity too', async () => {
    const id = newId()
    await keep({}, id)
    const before = (await all()).length
    const again = await keep({ by: 'Bo', touchstone: text(61) }, id)
    expect(again.status).toBe(200)
    expect(again.body).toMatchObject({ by: 'Ada', pointCount: 41 })
    expect(await all()).toHaveLength(before)
    const elsewhere = await h.call('PUT', `/api/chains/hf-amplifier/line-sweeps/${id}`, body)
    expect(elsewhere.status).toBe(404)
    const made = await h.call('POST', `${CHAIN}/line-sweeps`, body)
    expect(made.status).toBe(201)
    expect(await all()).toHaveLength(before + 1)
  })

  test('belongs to the chain of its day', async () => {
    const { document, revision: baseRevision, epoch } = (await h.call('GET', CHAIN)).body
    document.name = 'HF long run, renamed'
    await h.call('PUT', CHAIN, { baseRevision, epoch, document, summary: 'renamed' })
    expect((await keep({ readAt: new Date().toISOString() })).body.chainRevision).toBe(2)
    expect((await keep()).body.chainRevision).toBe(1)
  })
})

/** A cable with its end open, in the way of no reflection: what returns turns by 2·β·l, and is less by twice its loss. */
function openCable(delayS: number, lossDb: number): string {
  const size = 10 ** (-lossDb / 10)
  const rows = Array.from({ length: 200 }, (_, k) => {
    const hz = (k + 1) * 1e6
    const angle = -4 * Math.PI * hz * delayS
    return `${k + 1} ${size * Math.cos(angle)} ${size * Math.sin(angle)}`
  })
  return ['# MHz S RI R 50', ...rows].join('\n')
}

describe('a sweep of one cable alone', () => {
  const alone = { before: 'duct', alone: true, farEnd: 'open' }
  test('is held against that cable and not against what follows it', async () => {
    const { stages } = (await h.call('GET', CHAIN)).body.document as ChainDocument
    const duct = stages.find(({ id }) => id === 'duct')!
    if (duct.kind !== 'line') throw new Error('The duct run is a cable.')
    // The end is found where the cable ends: 46 m of it.
    const delayS = 46 / (duct.cable.velocityFactor * 299_792_458)
    const touchstone = openCable(delayS, 3)
    const at = (hour: number) => ({ ...alone, readAt: `2026-04-30T0${hour}:00:00.000Z` })
    const kept = (await keep({ ...at(1), touchstone })).body
    expect(kept).toMatchObject({ alone: true, before: 'duct', place: 'Duct run alone' })
    expect(kept.figures.endM.value).toBeCloseTo(46, 0)
    // More of it returns the less it loses: 1 dB less, one way.
    const better = (await keep({ ...at(2), touchstone: openCable(delayS, 2) })).body
    expect(kept.figures.extraLossDb.value - better.figures.extraLossDb.value).toBeCloseTo(1, 1)
    // Of the whole line the end would lie further out.
    const whole = (await keep({ ...at(3), alone: false, touchstone })).body
    expect(whole.place).toBe('input of Duct run')
    expect(whole.figures).not.toEqual(kept.figures)
  })

  test.each([
    ['a stage that is no cable', { before: 'tuner' }, '/before', /“[^”]+” is no cable that/],
    ['the antenna', { before: 'load' }, '/before', /The antenna is no cable/],
    ['the antenna at its end', { farEnd: 'antenna' }, '/farEnd', /no antenna at its far end/],
  ])('%s is refused', async (_, own, pointer, why) => {
    const { status, body: problem } = await keep({ ...alone, ...own })
    expect([status, problem.errors[0].pointer]).toEqual([422, pointer])
    expect(JSON.stringify(problem.errors[0])).toMatch(why)
  })

  test('is part of what the record knows of that cable, as are lines with it', async () => {
    const things = (await h.call('GET', '/api/stations/merrow-point/things')).body as {
      id: string
      mark: string
    }[]
    const historyOf = async (mark: string) =>
      thingHistorySchema.parse(
        (await h.call('GET', `/api/things/${things.find((t) => t.mark === mark)!.id}/history`))
          .body,
      )
    const one = (await keep({ ...alone, readAt: '2026-05-01T10:00:00.000Z' })).body
    const line = (
      await keep({ before: 'desk', farEnd: 'open', readAt: '2026-05-02T10:00:00.000Z' })
    ).body
    const stood = (await keep({ readAt: '2026-05-03T10:00:00.000Z' })).body
    const { sweeps } = await historyOf('L2')
    const ids = sweeps.map(({ sweep }) => sweep.id)
    expect(ids.slice(0, 2)).toEqual([line.id, one.id])
    // With the antenna at its end it says nothing of the cable’s loss.
    expect(ids).not.toContain(stood.id)
    expect(sweeps[1]).toMatchObject({ chain: expect.stringContaining('HF long run'), with: [] })
    expect(sweeps[0]!.with).toContain('Desk lead')
    expect(sweeps[0]!.with).not.toContain('Duct run')
    // What does not lie on the way knows nothing of it.
    const others = (await historyOf('L1')).sweeps.map(({ sweep }) => sweep.id)
    expect(others).not.toContain(one.id)
    // A chain is known from its first sweep on, as long as that is not in the bin.
    const first = (await keep({ ...alone, readAt: '2019-05-01T10:00:00.000Z' })).body
    const since = async () =>
      (await historyOf('L2')).stays.find(({ chain }) => chain.startsWith('HF long run'))!.from
    expect(await since()).toBe('2019-05-01T10:00:00.000Z')
    await h.call('DELETE', `/api/line-sweeps/${first.id}`)
    expect(await since()).not.toBe('2019-05-01T10:00:00.000Z')
    await h.call('DELETE', `/api/line-sweeps/${one.id}`)
    expect((await historyOf('L2')).sweeps.map(({ sweep }) => sweep.id)).not.toContain(one.id)
  })
})

describe('what is no sweep', () => {
  test.each([
    ['no Touchstone file', { touchstone: 'hello' }, '/touchstone'],
    ['rows that fall', { touchstone: '# MHz S RI R 50\n8 0.2 0\n7 0.1 0\n' }, '/touchstone'],
    ['one point', { touchstone: '# MHz S RI R 50\n7 0.2 0\n' }, '/touchstone'],
    ['more points than say anything', { touchstone: text(20_100) }, '/touchstone'],
    ['a place that is not on the chain', { before: 'nowhere' }, '/before'],
    ['a clock that nobody has set', { readAt: '1970-01-01T00:00:00.000Z' }, '/readAt'],
    ['a day that lies ahead', { readAt: '2999-01-01T00:00:00.000Z' }, '/readAt'],
    ['an end that there is not', { farEnd: 'sea' }, '/farEnd'],
  ])('%s is refused at its place, and nothing is kept', async (_, own, pointer) => {
    const before = (await all()).length
    const { status, body: problem } = await keep(own)
    expect(status).toBe(422)
    expect(problem.errors[0].pointer).toBe(pointer)
    expect(await all()).toHaveLength(before)
  })
})

test('deleted it waits in the bin; emptied, it is gone', async () => {
  const { body: kept } = await keep()
  await h.call('DELETE', `/api/line-sweeps/${kept.id}`)
  expect((await all()).map(({ id }) => id)).not.toContain(kept.id)
  const bin = async () => (await h.call('GET', '/api/stations/merrow-point/bin')).body
  expect(await bin()).toContainEqual(expect.objectContaining({ kind: 'sweep', id: kept.id }))
  await h.call('POST', `/api/line-sweeps/${kept.id}/restore`)
  expect((await all()).map(({ id }) => id)).toContain(kept.id)
  await h.call('DELETE', `/api/line-sweeps/${kept.id}`)
  await h.call('DELETE', '/api/stations/merrow-point/bin')
  expect((await h.call('GET', `/api/line-sweeps/${kept.id}`)).status).toBe(404)
})

test('a station file takes sweeps along, point by point, however many a page lists', async () => {
  const [first] = await h.db.select().from(lineSweeps).limit(1)
  const many = Array.from({ length: 520 }, (_, i) => ({ ...first!, id: `many-${i}` }))
  await write(h.db, (tx) => insertMany(tx, lineSweeps, many))
  expect(await all()).toHaveLength(500)
  const whole = (await h.call('GET', '/api/stations/merrow-point/file')).body
  const ids = new Set(whole.log.sweeps.map(({ id }: { id: string }) => id))
  expect(many.every(({ id }) => ids.has(id))).toBe(true)
  await write(h.db, (tx) => tx.delete(lineSweeps).where(like(lineSweeps.id, 'many-%')))
  const file = (await h.call('GET', '/api/stations/merrow-point/file')).body
  const made = (await h.call('POST', '/api/station-files', file)).body
  const chain = made.chains.find(({ name }: { name: string }) => name.startsWith('HF long run'))
  const there: LineSweepSummary[] = (await h.call('GET', `/api/chains/${chain.id}/line-sweeps`))
    .body
  const ours = await all()
  expect(there).toHaveLength(ours.length)
  const told = ({ readAt, figures, before }: LineSweepSummary) => ({ readAt, figures, before })
  expect(there.map(told)).toEqual(ours.map(told))
  const [a, b] = [await one(there[0]!.id), await one(ours[0]!.id)]
  expect([a.frequencyHz, a.re, a.im]).toEqual([b.frequencyHz, b.re, b.im])
})
