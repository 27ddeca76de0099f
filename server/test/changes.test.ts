import { afterAll, beforeAll, expect, test } from 'vitest'
import { changeOf } from '../src/http/changes.ts'
import { type Harness, startHarness, until } from './harness.ts'

let h: Harness
beforeAll(async () => (h = await startHarness({ heartbeatMs: 50 })))
afterAll(() => h.close())

/** Listens as a window; what it was told of, and the way out. */
async function listen(window: string) {
  const stop = new AbortController()
  const answer = await fetch(`${h.base}/api/changes?window=${window}`, { signal: stop.signal })
  const told: unknown[] = []
  let beats = 0
  const reading = (async () => {
    let rest = ''
    for await (const part of answer.body!.pipeThrough(new TextDecoderStream())) {
      rest += part
      const lines = rest.split('\n')
      rest = lines.pop()!
      for (const line of lines) {
        if (line.startsWith('data: ')) told.push(JSON.parse(line.slice(6)))
        if (line.startsWith(':')) beats++
      }
    }
  })().catch(() => undefined)
  return {
    answer,
    told,
    beats: () => beats,
    until: async (count: number) => {
      await until(() => told.length >= count)
      return told
    },
    close: async () => {
      stop.abort()
      await reading
    },
  }
}

const reading = {
  before: 'load',
  frequencyHz: 8.294e6,
  mode: 'key-down',
  powerW: 125,
  forwardW: 80,
}

test('a window hears what another one changed, and not what it did itself', async () => {
  const [one, two] = await Promise.all([listen('one'), listen('two')])
  expect(one.answer.headers.get('content-type')).toMatch(/^text\/event-stream/)
  const { status } = await h.call('POST', '/api/chains/hf-long-run/readings', reading, {
    'x-saltline-window': 'one',
  })
  expect(status).toBe(201)
  expect(await two.until(1)).toEqual([{ what: 'log', chainId: 'hf-long-run' }])
  const { body: chain } = await h.call('GET', '/api/chains/vhf-mast')
  const saved = await h.call(
    'PUT',
    '/api/chains/vhf-mast',
    {
      document: { ...chain.document, note: 'seen by two' },
      baseRevision: chain.revision,
      epoch: chain.epoch,
      summary: 'note',
    },
    { 'x-saltline-window': 'two' },
  )
  expect(saved.status).toBe(200)
  expect(await one.until(1)).toEqual([{ what: 'chain', chainId: 'vhf-mast' }])
  expect(two.told).toHaveLength(1)
  await Promise.all([one.close(), two.close()])
})

test('what was refused or only computed is no change; a quiet stream stays alive', async () => {
  const listener = await listen('quiet')
  await h.call('POST', '/api/chains/hf-long-run/readings', { nothing: true })
  await h.call('GET', '/api/stations')
  await until(() => listener.beats() > 1)
  expect(listener.told).toEqual([])
  await listener.close()
})

test.each([
  ['GET', '/chains/c', null],
  ['POST', '/solve', null],
  ['POST', '/plan', null],
  ['POST', '/access/sign-in', null],
  ['PUT', '/chains/c', { what: 'chain', chainId: 'c' }],
  ['DELETE', '/chains/c', { what: 'chain', chainId: 'c' }],
  ['POST', '/chains/c/restore', { what: 'chain', chainId: 'c' }],
  ['POST', '/chains/c/events', { what: 'log', chainId: 'c' }],
  ['PUT', '/readings/r', { what: 'log', chainId: null }],
  ['PUT', '/chains/c/runs/r', { what: 'log', chainId: 'c' }],
  ['PUT', '/gear/g', { what: 'station', chainId: null }],
  ['POST', '/chains/c/readings/already', null],
  ['POST', '/chains/c/readings/many', { what: 'log', chainId: 'c' }],
  ['POST', '/backup/kept', null],
  ['POST', '/backup/preview', null],
  ['POST', '/backup/kept/x/restore', { what: 'station', chainId: null }],
])('%s %s', (method, path, change) => expect(changeOf(method, path)).toEqual(change))
