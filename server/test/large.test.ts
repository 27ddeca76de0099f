/** Large sweeps, logging, and the interface's own files. */
import { Writable } from 'node:stream'
import type { AddressInfo } from 'node:net'
import { pino } from 'pino'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { createApp } from '../src/app.ts'
import { callAt, type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

describe('a sweep of a hundred thousand points', () => {
  const N = 100_000
  const touchstone = [
    '# Hz S RI R 50',
    ...Array.from(
      { length: N },
      (_, i) => `${1_000_000 + i * 100} ${Math.sin(i / 5000) * 0.8} ${Math.cos(i / 3000) * 0.5}`,
    ),
  ].join('\n')

  test('is kept whole, and solves to the last point', { timeout: 120_000 }, async () => {
    const made = await h.call('POST', '/api/stations/merrow-point/antennas', {
      name: 'Wide',
      touchstone,
    })
    expect(made.status).toBe(201)
    const [sweep] = made.body.sweeps
    expect(sweep.pointCount).toBe(N)
    const whole = (await h.call('GET', `/api/sweeps/${sweep.id}`)).body
    expect(whole.re).toHaveLength(N)
    expect(whole.re[77_777]).toBe(Math.sin(77_777 / 5000) * 0.8)

    const { document } = (await h.call('GET', '/api/chains/hf-long-run')).body
    const load = { kind: 'antenna', name: 'Wide', antennaId: made.body.id, sweepId: sweep.id }
    const solved = await h.call('POST', '/api/solve', {
      document: { ...document, load },
      frequencyHz: sweep.highHz,
      powerW: 10,
    })
    expect(solved.status).toBe(200)
    expect(solved.body.solution.antennaW).toBeGreaterThan(0)
  })

  test('over 32 MiB is refused with the limit', { timeout: 120_000 }, async () => {
    const { status, body } = await h.call('POST', '/api/stations/merrow-point/antennas', {
      name: 'Too wide',
      touchstone: '!'.repeat(34 * 1024 * 1024),
    })
    expect(status).toBe(413)
    expect(body.detail).toContain('32768 KiB')
  })
})

describe('the log', () => {
  test('has one line a request, without headers, bodies and the key of a calendar', async () => {
    let log = ''
    const sink = new Writable({
      write(chunk, _encoding, done) {
        log += String(chunk)
        done()
      },
    })
    const server = createApp(h.db, { logger: pino({ level: 'info' }, sink) }).listen(0, '127.0.0.1')
    await new Promise((done) => server.once('listening', done))
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
    await callAt(base, 'GET', '/api/health', undefined, { 'x-secret': 'hidden-header' })
    await callAt(base, 'POST', '/api/solve', { secret: 'hidden-body' })
    await callAt(base, 'GET', '/api/health?zone=UTC&key=hidden-key&more=1')
    await callAt(base, 'GET', '/api/health?key=hidden-key')
    await new Promise((done) => server.close(done))
    const lines = log
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { req: { url: string }; res: { statusCode: number } })
    expect(lines.map(({ req, res }) => [req.url, res.statusCode])).toEqual([
      ['/api/health', 200],
      ['/api/solve', 422],
      ['/api/health?zone=UTC&key=…&more=1', 200],
      ['/api/health?key=…', 200],
    ])
    expect(log).not.toContain('hidden')
  })
})

describe('the demo station', () => {
  test.each([
    ['hf-long-run', [93, 12.8, 82, 51]],
    ['hf-amplifier', [362, 50, 319, 154]],
    ['mf-hf-whip', [62, 62, 17.7, 82]],
    ['vhf-mast', [14, 14, 14, 0.56]],
  ])('%s comes to the watts of its story', async (id, watts) => {
    const { document } = (await h.call('GET', `/api/chains/${id}`)).body
    for (const [i, channel] of document.channels.entries()) {
      const { frequencyHz, powerW } = channel
      const { body } = await h.call('POST', '/api/solve', { document, frequencyHz, powerW })
      expect(body.solution.antennaW / watts[i]!).toBeCloseTo(1, 1)
    }
  })

  test('the radio reads SWR 5 while the antenna stands at 54', async () => {
    const { document } = (await h.call('GET', '/api/chains/hf-long-run')).body
    const tuner = document.stages.find((s: { kind: string }) => s.kind === 'tuner')
    tuner.bypassed = true
    const { body } = await h.call('POST', '/api/solve', {
      document,
      frequencyHz: 6.224e6,
      powerW: 125,
    })
    const { planes } = body.solution
    expect(planes[0].swr).toBeGreaterThan(5)
    expect(planes[0].swr).toBeLessThan(6)
    expect(planes.at(-1).swr).toBeCloseTo(54.1, 0)
  })
})
