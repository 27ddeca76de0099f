/**
 * A station of a million readings, over real HTTP: taken in as a file, its log given as CSV, its file given and taken in
 * again; how long each takes, how long others wait meanwhile, and how much memory the server holds at most.
 *   npx tsx server/bench/million.ts [readings]
 */
import {
  createReadStream,
  createWriteStream,
  mkdtempSync,
  readFileSync,
  rmSync,
  statSync,
} from 'node:fs'
import { request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { STATION_FILE_VERSION } from '@saltline/contract'
import { startDemoServer } from '../demoServer.ts'
import { othersWhile, shareOf } from './others.ts'

const READINGS = Number(process.argv[2] ?? 1_000_000)
const PER_SESSION = 12

const server = await startDemoServer()
const folder = mkdtempSync(join(tmpdir(), 'saltline-bench-'))
const base = server.url

const get = async (path: string) => (await fetch(base + path)).json() as Promise<never>

/** The file of the demo’s VHF chain with as many readings as asked for. */
async function* fileText(): AsyncGenerator<string> {
  const { chains, ...rest } = (await get('/api/stations/merrow-point/file')) as {
    chains: { id: string }[]
  }
  const readings = Array.from({ length: 2000 })
  const at = (i: number) => new Date(Date.UTC(1990, 0, 1) + i * 1_000_000).toISOString()
  const sessions = Array.from({ length: Math.ceil(READINGS / PER_SESSION) }, (_, s) => ({
    id: `s${s}`,
    chainId: 'vhf-mast',
    startedAt: at(s * PER_SESSION),
    lastAt: at(s * PER_SESSION + PER_SESSION - 1),
    note: '',
  }))
  const own = {
    ...rest,
    version: STATION_FILE_VERSION,
    chains: chains.filter(({ id }) => id === 'vhf-mast'),
    // They name other chains.
    duties: [],
    things: [],
    log: undefined,
  }
  yield `${JSON.stringify(own).slice(0, -1)},"log":{"rounds":${JSON.stringify(sessions)},"events":[],"measurements":[],"readings":[`
  for (let from = 0; from < READINGS; from += readings.length)
    yield (
      (from === 0 ? '' : ',') +
      readings
        .slice(0, READINGS - from)
        .map((_, k) => {
          const i = from + k
          return JSON.stringify({
            id: `r${i}`,
            chainId: 'vhf-mast',
            chainRevision: 1,
            roundId: `s${Math.floor(i / PER_SESSION)}`,
            channelId: `c${1 + (i % 3)}`,
            frequencyHz: 156.45e6,
            mode: 'FM',
            meanToPeak: null,
            powerW: 25,
            before: 'load',
            place: 'at the antenna',
            forwardW: Number((20 + Math.sin(i)).toFixed(2)),
            reflectedW: 0.3,
            shownForwardW: null,
            shownReflectedW: null,
            swr: null,
            rangeW: null,
            instrumentId: null,
            instrument: '',
            supplyV: null,
            weather: i % 3 === 0 ? 'dry' : 'wet, south-west',
            by: i % 2 === 0 ? 'Ada' : 'Bo',
            note: i % 50 === 0 ? 'rain' : '',
            readAt: at(i),
            inside: i % 40 !== 0,
            expectedW: 20.1234,
            lowW: 18.25,
            highW: 22.5,
            expectedSwr: 1.21,
            lowSwr: 1.1,
            highSwr: 1.4,
          })
        })
        .join(',')
    )
  yield ']}}'
}

/** What the server holds now, MB. */
const memory = (): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1024

async function measured<T>(what: string, run: () => Promise<T>): Promise<T> {
  let most = 0
  const timer = setInterval(() => (most = Math.max(most, memory())), 200)
  let seconds = 0
  const { value, waits } = await othersWhile(base, async () => {
    const began = performance.now()
    const done = await run()
    seconds = (performance.now() - began) / 1000
    return done
  })
  clearInterval(timer)
  console.log(
    `${what.padEnd(36)} ${seconds.toFixed(1).padStart(6)} s, at most ${most.toFixed(0).padStart(4)} MB; ` +
      `others p99 ${shareOf(waits, 0.99).toFixed(0)} ms, worst ${Math.max(...waits).toFixed(0)} ms`,
  )
  return value
}

const taken = (path: string): Promise<{ id: string }> =>
  new Promise((done, fail) => {
    const sent = request(
      `${base}/api/station-files`,
      {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'content-length': statSync(path).size },
      },
      (answer) => {
        let text = ''
        answer.on('data', (part) => (text += String(part)))
        answer.on('end', () =>
          answer.statusCode === 201 ? done(JSON.parse(text) as { id: string }) : fail(Error(text)),
        )
      },
    )
    sent.on('error', fail)
    createReadStream(path).pipe(sent)
  })

const given = async (path: string, to: string): Promise<number> => {
  const { body } = await fetch(base + path)
  await pipeline(Readable.fromWeb(body as never), createWriteStream(to))
  return statSync(to).size
}

try {
  const file = join(folder, 'station.json')
  await pipeline(Readable.from(fileText()), createWriteStream(file))
  console.log(`${READINGS} readings, a file of ${(statSync(file).size / 1e6).toFixed(0)} MB`)
  const { id } = await measured('the station file taken in', () => taken(file))
  const size = await measured('its log as CSV', () =>
    given(`/api/stations/${id}/log.csv`, join(folder, 'log.csv')),
  )
  console.log(`  ${(size / 1e6).toFixed(0)} MB`)
  await measured('its file given', () => given(`/api/stations/${id}/file`, file))
  const again = await measured('and taken in again', () => taken(file))
  const count = async (station: string) =>
    ((await get(`/api/stations/${station}/readings?limit=1`)) as { total: number }).total
  console.log(`  ${await count(id)} and ${await count(again.id)} readings`)
} finally {
  await server.stop()
  rmSync(folder, { recursive: true })
}
