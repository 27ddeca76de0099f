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

test('a run is begun, goes on, and is the same for every device', async () => {
  const { status, body: run } = await h.call('POST', '/api/chains/hf-long-run/runs', body)
  expect(status).toBe(201)
  expect(run).toMatchObject({ revision: 1, next: 0, outcome: 'running', note: '' })
  const went = { ...body, next: 1, entries: [{ stepId: 'rules', at, outcome: 'done' }] }
  const saved = await h.call('PUT', `/api/runs/${run.id}`, { baseRevision: 1, run: went })
  expect(saved.body).toMatchObject({ revision: 2, next: 1 })
  // Another device that has not seen it is told, and loses nothing that was kept.
  const late = await h.call('PUT', `/api/runs/${run.id}`, { baseRevision: 1, run: body })
  expect(late.status).toBe(409)
  expect(late.body.title).toBe('Somebody else went on with this run')
  expect((await h.call('GET', `/api/runs/${run.id}`)).body).toEqual(saved.body)
  const { body: all } = await h.call('GET', '/api/chains/hf-long-run/runs')
  expect(all[0]).toEqual(saved.body)
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
    const { status, body: problem } = await h.call('POST', '/api/chains/hf-long-run/runs', wrong)
    expect(status).toBe(422)
    expect(problem.errors[0].pointer).toBe(pointer)
  }
  expect((await h.call('GET', '/api/runs/nosuch')).status).toBe(404)
  expect((await h.call('POST', '/api/chains/nosuch/runs', body)).status).toBe(404)
})

test('a station file takes runs along, and one without any is read', async () => {
  await h.call('POST', '/api/chains/vhf-mast/runs', { ...body, channelId: 'c1' })
  const { body: file } = await h.call('GET', '/api/stations/merrow-point/file')
  expect(file.log.runs.length).toBeGreaterThan(0)
  const { body: copy } = await h.call('POST', '/api/station-files', file)
  const chain = copy.chains.find(({ name }: { name: string }) => name === 'VHF mast')
  const { body: runs } = await h.call('GET', `/api/chains/${chain.id}/runs`)
  expect(runs[0]).toMatchObject({ title: 'Before keying', channelId: 'c1' })
  delete file.log.runs
  expect((await h.call('POST', '/api/station-files', file)).status).toBe(201)
})
