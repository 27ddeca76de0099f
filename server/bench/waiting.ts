/**
 * How long others wait while the server does something long, over real HTTP: the worst and the 99th percentile of
 * small requests that are sent all the while; then two hundred requests a second, mixed.
 */
import { Agent, request } from 'node:http'
import { startDemoServer } from '../demoServer.ts'
import { othersWhile, shareOf } from './others.ts'

const server = await startDemoServer()
const base = server.url
const agent = new Agent({ keepAlive: true, maxSockets: 64 })

interface Answer {
  status: number
  ms: number
  bytes: Buffer
}

function call(method: string, path: string, body?: string | Buffer): Promise<Answer> {
  const began = performance.now()
  return new Promise((done, fail) => {
    const sent = request(
      base + path,
      { method, agent, headers: body ? { 'content-type': 'application/json' } : {} },
      (answer) => {
        const parts: Buffer[] = []
        answer.on('data', (part: Buffer) => parts.push(part))
        answer.on('end', () =>
          done({
            status: answer.statusCode ?? 0,
            ms: performance.now() - began,
            bytes: Buffer.concat(parts),
          }),
        )
      },
    )
    sent.on('error', fail)
    sent.end(body)
  })
}

const json = async <T>(path: string): Promise<T> =>
  JSON.parse((await call('GET', path)).bytes.toString()) as T

/** Does something long, while somebody else asks for something small all the time. */
async function whileOthersAsk(what: string, long: () => Promise<Answer>): Promise<Answer> {
  const { value: answer, waits } = await othersWhile(base, long)
  console.log(
    `${what.padEnd(46)} ${String(answer.status).padStart(4)} ${(answer.ms / 1000).toFixed(2).padStart(7)} s` +
      `  others: p99 ${shareOf(waits, 0.99).toFixed(0).padStart(4)} ms, worst ${Math.max(...waits)
        .toFixed(0)
        .padStart(4)} ms of ${waits.length}`,
  )
  return answer
}

// The first look at everything is no measure: threads begin, code is compiled.
await json('/api/stations/merrow-point/alerts')
await whileOthersAsk(
  'nothing',
  () =>
    new Promise((done) =>
      setTimeout(() => done({ status: 0, ms: 2000, bytes: Buffer.alloc(0) }), 2000),
    ),
)

interface Chain {
  document: {
    stages: { id: string; kind: string; cable?: object }[]
    load: object
    channels: object[]
  }
}
const hf = await json<Chain>('/api/chains/hf-long-run')
const stepped = {
  ...hf.document,
  stages: [
    {
      id: 'auto',
      kind: 'tuner',
      name: 'Automatic tuner',
      method: 'stepped',
      coilQ: 120,
      capacitorQ: 800,
      coilBits: 9,
      coilStepH: 5e-8,
      capacitorBits: 9,
      capacitorStepF: 7e-12,
      contentSwr: 1.5,
    },
    ...hf.document.stages,
  ],
  load: { kind: 'swr', name: 'Antenna', swr: 4 },
}
const solve = JSON.stringify({ document: stepped, frequencyHz: 8.294e6, powerW: 100 })
await whileOthersAsk('a stepped tuner, an antenna of unknown phase', () =>
  call('POST', '/api/solve', solve),
)

const vhf = {
  frequencyHz: 156.45e6,
  mode: 'FM',
  before: 'load',
  channelId: 'c1',
  weather: 'dry',
  by: 'Ada',
}
const readings = (from: number, powers: boolean) =>
  JSON.stringify({
    readings: Array.from({ length: 20_000 }, (_, i) => ({
      ...vhf,
      powerW: powers ? 1 + i / 1000 : 25,
      forwardW: 20 + Math.sin(i),
      note: i % 50 === 0 ? 'rain' : '',
      readAt: new Date(Date.UTC(2012 + from, 0, 1) + i * 20 * 60_000).toISOString(),
    })),
  })
for (let k = 0; k < 5; k++)
  await whileOthersAsk(
    k === 0 ? '20 000 readings, each at a power of its own' : '20 000 readings more',
    () => call('POST', '/api/chains/vhf-mast/readings/many', readings(k, k === 0)),
  )
const amplified = JSON.parse(readings(5, true)) as { readings: object[] }
await whileOthersAsk('1 000 powers behind an amplifier', () =>
  call(
    'POST',
    '/api/chains/hf-amplifier/readings/many',
    JSON.stringify({
      readings: amplified.readings
        .slice(0, 1000)
        .map((r) => ({ ...r, mode: 'CW', frequencyHz: 8.294e6, channelId: undefined })),
    }),
  ),
)
const station = '/api/stations/merrow-point'
await whileOthersAsk('first page of 100 000', () => call('GET', `${station}/readings`))
await whileOthersAsk('last page', () => call('GET', `${station}/readings?offset=100000`))
await whileOthersAsk('a word in the notes', () => call('GET', `${station}/readings?text=rain`))
await whileOthersAsk('two letters that are nowhere', () =>
  call('GET', `${station}/readings?text=qq`),
)
await whileOthersAsk('one channel over the years', () =>
  call('GET', '/api/chains/vhf-mast/years/c1'),
)
await whileOthersAsk('alerts', () => call('GET', `${station}/alerts`))
await whileOthersAsk('the log as CSV', () => call('GET', `${station}/log.csv`))
await whileOthersAsk('the log as JSON', () => call('GET', `${station}/log.json`))
const file = await whileOthersAsk('the station file', () => call('GET', `${station}/file`))
console.log(`  ${(file.bytes.length / 1e6).toFixed(0)} MB`)
const backup = await whileOthersAsk('a backup', () => call('GET', '/api/backup'))
await whileOthersAsk('a station file taken in', () =>
  call('POST', '/api/station-files', file.bytes),
)
await whileOthersAsk('a backup looked into', () =>
  call('POST', '/api/backup/preview', backup.bytes),
)
await whileOthersAsk('a backup restored', () => call('POST', '/api/backup/restore', backup.bytes))

/** Three sections with a hundred and forty cables: as long as a plan can take. */
function hardPlan(): string {
  const lines = hf.document.stages.filter(({ kind }) => kind === 'line')
  const candidates = Array.from({ length: 140 }, (_, i) => ({
    id: `c${i}`,
    cable: { ...lines[0]!.cable, name: `c${i}`, k1DbPer100m: 0.5 + i / 50, k2DbPer100m: 0.001 },
    costPerM: 1 + ((i * 37) % 140) / 20,
  }))
  const sections = lines.slice(0, 3).map(({ id }) => ({ stageId: id, candidates }))
  return JSON.stringify({ document: hf.document, sections, counts: 'worst', costPerSection: 0 })
}

const kept: number[] = []
await whileOthersAsk('a plan, an import, two exports, readings kept', async () => {
  let on = true
  const longWork = Promise.all([
    call('POST', '/api/plan', hardPlan()),
    call('POST', '/api/station-files', file.bytes),
    call('GET', `${station}/log.csv`),
    call('GET', `${station}/file`),
  ]).finally(() => (on = false))
  const reading = { ...vhf, powerW: 25, forwardW: 20 }
  while (on) {
    const { ms, status } = await call(
      'POST',
      '/api/chains/vhf-mast/readings',
      JSON.stringify(reading),
    )
    if (status !== 201) throw new Error(`A reading was answered with ${status}.`)
    kept.push(ms)
  }
  const [first] = await longWork
  return first
})
console.log(
  `  ${kept.length} readings kept meanwhile: p50 ${shareOf(kept, 0.5).toFixed(0)}, p99 ${shareOf(kept, 0.99).toFixed(0)} ms`,
)

const SECONDS = Number(process.env['SALTLINE_BENCH_SECONDS'] ?? 60)
const mixed: [string, string, (() => string)?][] = [
  ['GET', '/api/stations'],
  ['GET', station],
  ['GET', '/api/chains/hf-long-run'],
  ['GET', '/api/chains/vhf-mast/rounds'],
  ['GET', `${station}/readings?limit=100`],
  ['GET', `${station}/readings?text=rain&limit=50`],
  ['GET', `${station}/measurements`],
  ['GET', '/api/chains/hf-long-run/revisions'],
  [
    'POST',
    '/api/events',
    () => JSON.stringify({ chainId: 'vhf-mast', on: '2026-04-18', text: 'bench' }),
  ],
  [
    'POST',
    '/api/solve',
    () => JSON.stringify({ document: hf.document, frequencyHz: 8.294e6, powerW: 100 }),
  ],
]
/** Code is compiled in the first seconds of a load, in every thread: they are no measure. */
const WARM_UP = 10
const gets: number[] = []
const posts: number[] = []
let errors = 0
const under: Promise<void>[] = []
const began = performance.now()
for (let i = 0; i < (WARM_UP + SECONDS) * 200; i++) {
  const due = began + i * 5
  const now = performance.now()
  if (due > now) await new Promise((done) => setTimeout(done, due - now))
  const [method, path, body] = mixed[i % mixed.length]!
  under.push(
    call(method, path, body?.()).then(
      ({ status, ms }) => {
        if (status >= 400) errors++
        if (i >= WARM_UP * 200) (method === 'GET' ? gets : posts).push(ms)
      },
      () => void errors++,
    ),
  )
}
await Promise.all(under)
console.log(
  `200 requests a second for ${SECONDS} s: GET p50 ${shareOf(gets, 0.5).toFixed(1)}, p99 ${shareOf(gets, 0.99).toFixed(1)} ms; ` +
    `POST p99 ${shareOf(posts, 0.99).toFixed(1)} ms; ${errors} errors`,
)
agent.destroy()
await server.stop()
