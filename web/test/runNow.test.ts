/** A run is shown as it stands, whatever was asked before. */
import { type Run, type RunBody, runSchema } from '@saltline/contract'
import { QueryObserver } from '@tanstack/react-query'
import { afterEach, expect, test, vi } from 'vitest'
import { queryClient } from '../src/platform/api/queries.ts'
import { runQuery } from '../src/platform/api/runQueries.ts'
import { enterRun } from '../src/platform/outbox/enter.ts'

afterEach(() => {
  vi.unstubAllGlobals()
  queryClient.clear()
})

const body = (next: number): RunBody => ({
  sheetId: 'before-keying',
  sheetVersion: 1,
  title: 'Before keying',
  channelId: 'c8',
  frequencyHz: 8.294e6,
  next,
  outcome: 'running',
  by: '',
  note: '',
  steps: [
    { id: 'look', channelId: 'c8', kind: 'check', title: 'Look', body: 'Look at it.' } as never,
    { id: 'listen', channelId: 'c8', kind: 'check', title: 'Listen', body: 'Listen.' } as never,
  ],
  entries: [],
})
/** As the server has it. */
const runAt = (next: number): Run => ({
  ...body(next),
  ...{ id: 'r1', chainId: 'c1', revision: next + 1 },
  startedAt: '2026-11-30T09:00:00.000Z',
  changedAt: '2026-11-30T09:00:00.000Z',
})

test.each(['the server takes the step', 'the server does not answer'])(
  'an answer that was asked for before a step does not show the step that was left: %s',
  async (what) => {
    let tell = (_: Response) => {}
    let asked = 0
    vi.stubGlobal('fetch', (_: string, { method = 'GET' }: RequestInit) => {
      if (method === 'PUT')
        return what.includes('takes')
          ? Promise.resolve(Response.json(runAt(1)))
          : Promise.reject(new TypeError('Failed to fetch'))
      asked++
      return new Promise<Response>((done) => (tell = done))
    })
    queryClient.setQueryData(['run', 'r1'], runAt(0))
    const seen: number[] = []
    const watched = new QueryObserver(queryClient, { ...runQuery('r1'), refetchInterval: false })
    const end = watched.subscribe(({ data }) => data && seen.push(data.next))
    await vi.waitFor(() => expect(asked).toBe(1))
    expect(() => runSchema.parse(runAt(0))).not.toThrow()
    await enterRun(runAt(0), body(1))
    tell(Response.json(runAt(0)))
    await new Promise((done) => setTimeout(done, 30))
    expect(queryClient.getQueryData<Run>(['run', 'r1'])!.next).toBe(1)
    expect(seen.slice(seen.indexOf(1))).not.toContain(0)
    end()
  },
)
