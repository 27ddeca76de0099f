/** What is sent by mistake or malice: a clear answer, never a stack, and nothing changed. */
import { request } from 'node:http'
import { type AddressInfo, connect } from 'node:net'
import { gzipSync } from 'node:zlib'
import express from 'express'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { createApp } from '../src/app.ts'
import { serverOf } from '../src/http/listen.ts'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

const json = { 'content-type': 'application/json' }

describe('a request that cannot be read', () => {
  test.each<[string, string, RequestInit, number]>([
    ['an address that is no text', '/api/stations/%ff', {}, 400],
    ['an address of the interface that is no text', '/%c3%28', {}, 400],
    [
      'JSON that breaks off',
      '/api/stations',
      { method: 'POST', headers: json, body: '{"a":' },
      400,
    ],
    [
      'a body that says it is packed',
      '/api/stations',
      { method: 'POST', headers: { ...json, 'content-encoding': 'gzip' }, body: 'no gzip' },
      400,
    ],
    [
      'a packing nobody knows',
      '/api/stations',
      { method: 'POST', headers: { ...json, 'content-encoding': 'x-own' }, body: '{}' },
      415,
    ],
    [
      'a packed body that unpacks to more than is taken',
      '/api/stations',
      {
        method: 'POST',
        headers: { ...json, 'content-encoding': 'gzip' },
        body: gzipSync(Buffer.alloc(3_000_000, 0x20)),
      },
      413,
    ],
  ])('%s is answered with words', async (_, path, init, status) => {
    const response = await fetch(h.base + path, init)
    expect(response.status).toBe(status)
    expect(response.headers.get('content-type')).toContain('problem+json')
    const problem = (await response.json()) as { detail: string }
    expect(problem.detail.length).toBeGreaterThan(20)
    expect(problem.detail).not.toMatch(/\bat .*\.(js|ts):\d/)
  })

  test('the API is never kept on the way, and a missing file is no page', async () => {
    const health = await fetch(`${h.base}/api/health`)
    expect(health.headers.get('cache-control')).toBe('no-store')
    const asset = await fetch(`${h.base}/assets/part-1a2b.js`, {
      headers: { 'accept-encoding': 'br' },
    })
    expect(asset.headers.get('content-encoding')).toBe('br')
    expect(asset.headers.get('cache-control')).toContain('immutable')
    expect(await asset.text()).toMatch(/^export/)
    const missing = await fetch(`${h.base}/assets/gone.js`)
    expect(missing.status).toBe(404)
  })
})

describe('documents that fit no station', () => {
  const problems = async (method: string, path: string, body: unknown) => {
    const answer = await h.call(method, path, body)
    return { status: answer.status, errors: answer.body.errors as { pointer: string }[] }
  }

  test('a chain that names a sweep which is not there', async () => {
    const { document } = (await h.call('GET', '/api/chains/mf-hf-whip')).body
    const load = { ...document.load, sweepId: 'nowhere' }
    const lost = { ...document, load }
    const at = { frequencyHz: 7e6, powerW: 100 }
    for (const [path, body] of [
      ['/api/stations/merrow-point/chains', lost],
      ['/api/solve', { document: lost, ...at }],
    ] as const) {
      const { status, errors } = await problems('POST', path, body)
      expect(status).toBe(422)
      expect(errors[0]!.pointer).toMatch(/\/load\/sweepId$/)
    }
  })

  test('a million pieces of gear, or of readings, are told in one sentence or in fifty', async () => {
    const { body: file } = await h.call('GET', '/api/stations/merrow-point/file')
    const gear = await problems('POST', '/api/station-files', {
      ...file,
      gear: Array.from({ length: 1_000_000 }, () => 1),
    })
    expect([gear.status, gear.errors.length]).toEqual([422, 1])
    const readings = Array.from({ length: 100_000 }, () => ({}))
    const log = await problems('POST', '/api/station-files', {
      ...file,
      log: { ...file.log, readings },
    })
    expect([log.status, log.errors.length]).toEqual([422, 50])
  })

  test('ids that stand twice in a station file, and sessions of other chains', async () => {
    const { body: file } = await h.call('GET', '/api/stations/merrow-point/file')
    const twice = {
      ...file,
      antennas: [file.antennas[0], { ...file.antennas[1], sweeps: file.antennas[0].sweeps }],
    }
    expect(
      (
        await problems('POST', '/api/station-files', {
          ...twice,
          chains: [],
          duties: [],
          log: { rounds: [], readings: [], events: [], measurements: [] },
        })
      ).errors[0]!.pointer,
    ).toBe('/antennas/1/sweeps/0/id')
    const [duty] = file.duties
    const [thing] = file.things
    for (const [wrong, pointer] of [
      [{ duties: [duty, duty] }, '/duties/1/id'],
      [{ duties: [{ ...duty, chainId: 'elsewhere' }] }, '/duties/0/chainId'],
      [{ things: [thing, thing] }, '/things/1/id'],
    ] as const)
      expect(
        (await problems('POST', '/api/station-files', { ...file, ...wrong })).errors[0]!.pointer,
      ).toBe(pointer)
    const [reading] = file.log.readings
    const other = file.chains.find(({ id }: { id: string }) => id !== reading.chainId).id
    const moved = { ...file, log: { ...file.log, readings: [{ ...reading, chainId: other }] } }
    expect((await problems('POST', '/api/station-files', moved)).errors[0]!.pointer).toBe(
      '/log/readings/0/roundId',
    )
  })

  test('a sheet whose fields are nested without end', async () => {
    const nested = `{"kind":"probe","title":"x","result":null,"inputs":{"a":${'['.repeat(50_000)}${']'.repeat(50_000)}}}`
    const { status, errors } = await problems(
      'POST',
      '/api/stations/merrow-point/measurements',
      nested,
    )
    expect([status, errors[0]!.pointer]).toEqual([422, '/inputs'])
  })

  test('a reading from the far future is questioned', async () => {
    const reading = { frequencyHz: 156.45e6, mode: 'FM', powerW: 25, before: 'load', forwardW: 20 }
    const { status, errors } = await problems('POST', '/api/chains/vhf-mast/readings', {
      ...reading,
      readAt: '2099-01-01T00:00:00.000Z',
    })
    expect([status, errors[0]!.pointer]).toEqual([422, '/readAt'])
  })
})

test.each(['0000-01-01T00:00:00.000Z', '1970-01-01T00:03:00.000Z'])(
  'a reading of %s is questioned: nobody has set that clock',
  async (readAt) => {
    const reading = { frequencyHz: 156.45e6, mode: 'FM', powerW: 25, before: 'load', forwardW: 20 }
    const { status, body } = await h.call('POST', '/api/chains/vhf-mast/readings', {
      ...reading,
      readAt,
    })
    expect([status, body.errors[0].pointer]).toEqual([422, '/readAt'])
  },
)

test('a sweep from 0 Hz is read, one beyond all bounds is refused with its line', async () => {
  const add = (touchstone: string) =>
    h.call('POST', '/api/stations/merrow-point/antennas', { name: 'Odd', touchstone })
  expect((await add('# MHz S RI R 50\n0 0.9 0\n1 0.1 0.2')).status).toBe(201)
  for (const mhz of ['1e308', '1e12']) {
    const { status, body } = await add(`# MHz S RI R 50\n${mhz} 0.9 0`)
    expect(status).toBe(422)
    expect(body.detail).toMatch(/Line 2.*above 1000 GHz/)
  }
})

test('a name that this machine gets after the start is answered to from then on', async () => {
  const names: string[] = []
  const server = createApp(h.db, { allowedHosts: () => names }).listen(0, '127.0.0.1')
  await new Promise((done) => server.once('listening', done))
  const { port } = server.address() as AddressInfo
  const status = (host: string) =>
    new Promise<number>((done, fail) => {
      const asked = request({ port, path: '/api/health', headers: { host } }, (answer) => {
        answer.resume()
        done(answer.statusCode!)
      })
      asked.once('error', fail).end()
    })
  expect(await status('localhost')).toBe(200)
  expect(await status('192.0.2.7:4173')).toBe(421)
  names.push('192.0.2.7')
  expect(await status('192.0.2.7:4173')).toBe(200)
  server.closeAllConnections()
  await new Promise((done) => server.close(done))
})

test('whoever waits for an answer longer than an idle connection may, gets it', async () => {
  const app = express()
  app.get('/slow', (_req, res) => void setTimeout(() => res.json('there'), 700))
  const server = serverOf(app, { patience: { head: 300, request: 600, idle: 150 } }).listen(
    0,
    '127.0.0.1',
  )
  await new Promise((done) => server.once('listening', done))
  const { port } = server.address() as AddressInfo
  const answer = await fetch(`http://127.0.0.1:${port}/slow`)
  expect(await answer.json()).toBe('there')
  server.closeAllConnections()
  server.close()
})

test('a connection that is too slow is cut', async () => {
  const server = serverOf(createApp(h.db), { patience: { head: 300, request: 600, idle: 2000 } })
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  const { port } = server.address() as { port: number }
  const cut = (text: string) =>
    new Promise<string>((done) => {
      let answer = ''
      const socket = connect(port, '127.0.0.1', () => socket.write(text))
      socket.on('data', (chunk) => (answer += String(chunk)))
      socket.on('close', () => done(answer))
      socket.on('error', () => done(answer))
    })
  const head = 'POST /api/stations HTTP/1.1\r\nhost: localhost\r\n'
  expect(await cut(head)).toMatch(/^HTTP\/1.1 408|^$/)
  expect(
    await cut(`${head}content-type: application/json\r\ncontent-length: 100\r\n\r\n{"name"`),
  ).toMatch(/^HTTP\/1.1 408|^$/)
  server.closeAllConnections()
  await new Promise((done) => server.close(done))
})
