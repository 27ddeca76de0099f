import { afterAll, beforeAll, expect, test } from 'vitest'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => (h = await startHarness()))
afterAll(() => h.close())

const body = {
  sheetId: 'before-keying',
  sheetVersion: 1,
  title: 'Before keying',
  channelId: 'c8',
  frequencyHz: 8.294e6,
  by: 'second watch',
  steps: [
    { id: 'rules', channelId: 'c8', kind: 'caution', title: 'Local rules first' },
    { id: 'first', channelId: 'c8', kind: 'read', title: 'Read', figures: 'both', mostSwr: 3 },
  ],
  next: 0,
  entries: [],
  outcome: 'running',
}
const at = '2026-05-01T08:00:00.000Z'

const put = (id: string, baseRevision: number, run: object, chain = 'hf-long-run') =>
  h.call('PUT', `/api/chains/${chain}/runs/${id}`, { baseRevision, run })
const entry = (id: string, stepId: string) => ({ id, stepId, at, outcome: 'done' })

test('a run is begun, goes on, and is the same for every device', async () => {
  const { status, body: run } = await put('first', 0, body)
  expect(status).toBe(200)
  expect(run).toMatchObject({ id: 'first', revision: 1, next: 0, outcome: 'running', note: '' })
  const saved = await put('first', 1, { ...body, next: 1, entries: [entry('e1', 'rules')] })
  expect(saved.body).toMatchObject({ revision: 2, next: 1 })
  // Another device that has not seen it is told, and loses nothing that was kept.
  const late = await put('first', 1, { ...body, next: 1, entries: [entry('other', 'rules')] })
  expect(late.status).toBe(409)
  expect(late.body.title).toBe('Somebody else went on with this run')
  expect((await put('first', 1, body)).status).toBe(409)
  expect((await h.call('GET', '/api/runs/first')).body).toEqual(saved.body)
  const { body: all } = await h.call('GET', '/api/chains/hf-long-run/runs')
  expect(all[0]).toEqual(saved.body)
})

test('steps that waited are taken once, whatever of them was taken before', async () => {
  const one = { ...body, next: 1, entries: [entry('w1', 'rules')] }
  const two = { ...body, next: 2, entries: [...one.entries, entry('w2', 'first')], outcome: 'done' }
  await put('waited', 0, body)
  await put('waited', 1, one)
  // The answer was lost, and the next step was done meanwhile: both come, on the revision that was seen.
  const both = await put('waited', 1, two)
  expect(both.body).toMatchObject({ revision: 3, next: 2, outcome: 'done' })
  expect(both.body.entries.map(({ id }: { id: string }) => id)).toEqual(['w1', 'w2'])
  // The first one again, and then the second: nothing changes.
  for (const again of [one, two]) {
    const { status, body: kept } = await put('waited', 1, again)
    expect([status, kept]).toEqual([200, both.body])
  }
  // Begun where nobody was heard, and gone on with before it was sent at all.
  expect((await put('waited-whole', 0, two)).body).toMatchObject({ revision: 1, next: 2 })
})

test('the session of readings that waited is found when the run comes after them', async () => {
  const chain = '/api/chains/hf-long-run'
  const reading = { frequencyHz: 8.294e6, mode: 'data', powerW: 80, before: 'load', forwardW: 40 }
  const { body: kept } = await h.call('PUT', `${chain}/readings/read-on-run`, reading)
  const entries = [{ ...entry('r1', 'first'), readingId: 'read-on-run' }]
  const { body: run } = await put('with-reading', 0, { ...body, next: 2, entries, outcome: 'done' })
  expect(run.roundId).toBe(kept.roundId)
})

test('what cannot be is named with its place', async () => {
  for (const [wrong, pointer] of [
    [{ ...body, steps: [] }, '/steps'],
    [{ ...body, steps: [{ ...body.steps[1], mostSwr: 0.5 }] }, '/steps/0/mostSwr'],
    [
      { ...body, entries: [{ stepId: 'first', at, outcome: 'done', forwardW: -1 }] },
      '/entries/0/forwardW',
    ],
  ] as const) {
    const { status, body: problem } = await put('wrong', 0, wrong)
    expect(status).toBe(422)
    expect(problem.errors[0].pointer).toBe(`/run${pointer}`)
  }
  expect((await h.call('GET', '/api/runs/nosuch')).status).toBe(404)
  expect((await put('new', 0, body, 'nosuch')).status).toBe(404)
  expect((await put('never-begun', 3, body)).status).toBe(404)
  expect((await put('Not An Id', 0, body)).status).toBe(404)
  await put('own', 0, body)
  expect((await put('own', 1, body, 'vhf-mast')).status).toBe(404)
})

test('a station file takes runs along, and one without any is read', async () => {
  await put('for-file', 0, { ...body, channelId: 'c1' }, 'vhf-mast')
  const { body: file } = await h.call('GET', '/api/stations/merrow-point/file')
  expect(file.log.runs.length).toBeGreaterThan(0)
  const { body: copy } = await h.call('POST', '/api/station-files', file)
  const chain = copy.chains.find(({ name }: { name: string }) => name === 'VHF mast')
  const { body: runs } = await h.call('GET', `/api/chains/${chain.id}/runs`)
  expect(runs[0]).toMatchObject({ title: 'Before keying', channelId: 'c1' })
  delete file.log.runs
  expect((await h.call('POST', '/api/station-files', file)).status).toBe(201)
})
