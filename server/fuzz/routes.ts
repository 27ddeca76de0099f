/**
 * Mangled requests to every address of the API, over real HTTP: none may be answered with 500, or end the server, or be
 * answered late: what is short after two seconds, long work, of which one of a kind is done at a time, after ten.
 *   tsx server/fuzz/routes.ts [requests] [seed]
 */
import { Agent, request } from 'node:http'
import { monitorEventLoopDelay } from 'node:perf_hooks'
import { seeded } from '@saltline/core'
import { startDemoServer } from '../demoServer.ts'

const TOTAL = Number(process.argv[2] ?? 100_000)
const seed = Number(process.argv[3] ?? Math.floor(Math.random() * 2 ** 31))
/** Requests to one server, before it is begun afresh: what they add must not slow it down. */
const EACH = 10_000
const AT_ONCE = 8
const LATE_MS = 2000
const LATE_LONG_MS = 10_000
/** Plans, solving, imports, exports, restores. */
const LONG =
  /\/(plan|solve|many|already|delete|file|station-files|antennas|log\.(csv|json))(\?|$)|backup/

const random = seeded(seed)
const below = (n: number): number => Math.floor(random() * n)
const one = <T>(of: readonly T[]): T => of[below(of.length)]!

interface Answer {
  status: number
  ms: number
  text: string
}

const agent = new Agent({ keepAlive: true, maxSockets: AT_ONCE })

function send(
  base: string,
  method: string,
  path: string,
  body?: string | Buffer,
  headers: Record<string, string> = {},
): Promise<Answer> {
  const began = performance.now()
  return new Promise((done, fail) => {
    const sent = request(base + path, { method, agent, headers }, (answer) => {
      const parts: Buffer[] = []
      answer.on('data', (part: Buffer) => parts.push(part))
      answer.on('end', () =>
        done({
          status: answer.statusCode ?? 0,
          ms: performance.now() - began,
          text: Buffer.concat(parts).toString(),
        }),
      )
      answer.on('error', fail)
    })
    sent.on('error', fail)
    sent.end(body)
  })
}

type Json = null | boolean | number | string | Json[] | { [name: string]: Json }
type Field = { [name: string]: Json }

const strange = (): Json =>
  one<() => Json>([
    () => null,
    () => true,
    () => 0,
    () => -1,
    () => 1e308,
    () => -1e308,
    () => 5e-324,
    () => 2 ** 53,
    () => 0.1 + 0.2,
    () => '',
    () => ' ',
    () => 'NaN',
    () => '__proto__',
    () => 'a\u0000b',
    () => '\ud800',
    () => '\u202e\u2028',
    () => 'x'.repeat(below(3000)),
    () => '9999-12-31T23:59:59.999Z',
    () => '0000-01-01T00:00:00Z',
    () => '2026-02-30',
    () => [],
    () => ({}),
    () => Array.from({ length: below(400) }, () => below(9)),
    () => Array.from({ length: below(60) }, () => ({})),
    () => nested(below(400)),
    () => ({ constructor: 1, toString: 2 }),
    () => random() * 10 ** (below(40) - 20),
  ])()

function nested(depth: number): Json {
  let value: Json = 1
  for (let i = 0; i < depth; i++) value = i % 2 === 0 ? [value] : { a: value }
  return value
}

/** All places of a value where something else could stand. */
function places(value: Json, path: (string | number)[] = [], found: (string | number)[][] = []) {
  found.push(path)
  if (found.length < 4000 && typeof value === 'object' && value !== null)
    for (const [name, inner] of Object.entries(value))
      places(inner, [...path, Array.isArray(value) ? Number(name) : name], found)
  return found
}

function mangled(value: Json): Json {
  let copy = structuredClone(value)
  for (let n = 1 + below(3); n > 0; n--) {
    const path = one(places(copy))
    if (path.length === 0) {
      if (random() < 0.1) copy = strange()
      continue
    }
    let at = copy as Field | undefined
    for (const name of path.slice(0, -1)) at = at?.[name] as Field | undefined
    // An earlier change has taken the place away.
    if (typeof at !== 'object' || at === null) continue
    const last = path.at(-1)!
    const what = random()
    if (what < 0.15) delete at[last]
    else if (what < 0.25) at[String(last) + '2'] = at[last] as Json
    else if (what < 0.35 && typeof at[last] === 'number')
      at[last] = at[last] * one([-1, 0, 1e-9, 1e9, 1e300, 1.0001])
    else if (what < 0.45 && Array.isArray(at[last]))
      at[last] = Array.from({ length: below(300) }, () => one(at[last] as Json[]) ?? null)
    else at[last] = strange()
  }
  return copy
}

const junkIds = [
  'nowhere',
  'x',
  '%ff',
  '%00',
  '..%2f..',
  'A',
  'a'.repeat(3000),
  '1e3',
  '-',
  '%F0%9F%93%BB',
  "'--",
  '__proto__',
]

interface Target {
  method: string
  path: string
  body: Json | undefined
  /** Names of what may stand behind the question mark. */
  query: string[]
}

/** Bodies that are right, by route; they are mangled from here. */
const lineSweep = {
  ...{ before: 'load', farEnd: 'antenna', readAt: '2026-04-18T10:00:00.000Z' },
  touchstone: '# MHz S RI R 50\n7 0.2 0\n8 0.3 0.1\n9 0.1 0\n',
}
const thing = {
  ...{ mark: 'Z9', where: 'w', state: 'spare', serial: 's', note: '', price: 3, places: [] },
  stage: { id: 'x', kind: 'pad', part: 'filter', name: 'F', lossDb: 0.2 },
}

const duty = {
  ...{ title: 't', note: '', chainId: 'vhf-mast', months: 12, afterEvent: 'storm' },
  ...{ from: '2026-04-18', task: { kind: 'reading', channelId: 'c1' } },
}

async function examples(base: string): Promise<Record<string, Json>> {
  const get = async (path: string) => JSON.parse((await send(base, 'GET', path)).text) as Field
  const chain = await get('/api/chains/hf-amplifier')
  const vhf = await get('/api/chains/vhf-mast')
  const station = await get('/api/stations/merrow-point')
  const file = await get('/api/stations/merrow-point/file')
  const log = file['log'] as { [name: string]: Json[] }
  const few = Object.fromEntries(
    Object.entries(log).map(([name, rows]) => [name, rows.slice(0, 6)]),
  )
  const { name, place, note, swrLimit, environment, currency } = station
  const reading = {
    frequencyHz: 156.45e6,
    mode: 'FM',
    powerW: 25,
    before: 'load',
    forwardW: 20,
    reflectedW: 0.2,
    note: 'n',
    weather: 'dry',
    by: 'A',
    readAt: '2026-04-18T10:00:00.000Z',
  }
  const gear = (station['gear'] as Field[]).map(({ id: _, ...body }) => body)
  return {
    'post /stations': { name, place, note, swrLimit, environment, currency } as Json,
    'put /stations/{stationId}': { name, place, note, swrLimit, environment, currency } as Json,
    'post /station-files': { ...file, log: few } as Json,
    'post /stations/{stationId}/gear': gear as Json,
    'put /gear/{gearId}': gear as Json,
    'post /stations/{stationId}/antennas': {
      name: 'A',
      note: '',
      sweepName: 's',
      touchstone: '# MHz S RI R 50\n1 0.1 0.2\n2 0.1 0.3\n',
      phaseKnown: true,
    },
    'post /stations/{stationId}/chains': [chain['document'], vhf['document']] as Json,
    'put /chains/{chainId}': {
      baseRevision: 1,
      epoch: '',
      document: chain['document'],
      summary: 's',
      key: 'a-key-of-its-own',
    } as Json,
    'post /chains/{chainId}/undo': { baseRevision: 1, epoch: '' },
    'post /chains/{chainId}/redo': { baseRevision: 1, epoch: '' },
    'post /chains/{chainId}/readings': reading,
    'put /readings/{readingId}': reading,
    'put /chains/{chainId}/readings/{readingId}': reading,
    'put /chains/{chainId}/runs/{runId}': [0, 1].map((baseRevision) => ({
      baseRevision,
      run: {
        sheetId: 'before-keying',
        sheetVersion: 1,
        title: 'Before keying',
        channelId: 'c8',
        frequencyHz: 8.294e6,
        by: 'A',
        steps: [
          { id: 'rules', channelId: 'c8', kind: 'caution', title: 'Local rules first' },
          {
            id: 'first',
            channelId: 'c8',
            kind: 'read',
            title: 'Read',
            figures: 'both',
            mostSwr: 3,
          },
        ],
        next: 1,
        entries: [{ id: 'e1', stepId: 'rules', at: '2026-05-01T08:00:00.000Z', outcome: 'done' }],
        outcome: 'running',
      },
    })),
    'post /stations/{stationId}/things': thing,
    'put /things/{thingId}': thing,
    'post /things/{thingId}/places': { chainId: 'vhf-mast', stageId: 'mast', moved: true },
    'post /chains/{chainId}/line-sweeps': lineSweep,
    'put /chains/{chainId}/line-sweeps/{sweepId}': lineSweep,
    'put /things/{thingId}/notes/{noteId}': {
      on: '2026-04-18',
      kind: 'repair',
      text: 'new connector',
    },
    'post /stations/{stationId}/duties': duty,
    'put /duties/{dutyId}': duty,
    'post /stations/{stationId}/duties/declined': { shipped: 'backup' },
    'put /duties/{dutyId}/marks/{markId}': [
      { kind: 'done', on: '2026-04-18', reason: '' },
      { kind: 'put off', on: '2027-01-01', reason: 'ice' },
    ],
    'put /stations/{stationId}/attempts/{attemptId}': {
      ...{ by: 'A', family: 'find', drill: 'connector', level: 2, seed: 'gull-417' },
      ...{ points: 85, right: true, readings: 4, keyDownS: 31.5 },
    },
    'post /live/{chainId}/{plane}': { forwardW: 60, reflectedW: 2, at: '2026-04-18T10:00:00.000Z' },
    'put /live/{chainId}/windows/{window}': { by: 'A', channelId: 'c8', before: 'load' },
    'post /plan': {
      document: chain['document'],
      sections: [{ stageId: 'duct', candidates: [{ id: 'a', cable: aCable(chain), costPerM: 2 }] }],
      counts: 'worst',
      costPerSection: 0,
    } as Json,
    'post /chains/{chainId}/readings/many': { readings: [reading, reading, reading] },
    'post /chains/{chainId}/readings/already': { readings: [reading] },
    'post /chains/{chainId}/readings/delete': { ids: ['none', 'neither'] },
    'put /rounds/{roundId}': { note: 'n' },
    'post /events': { chainId: 'vhf-mast', on: '2026-04-18', text: 'storm' },
    'post /stations/{stationId}/measurements': {
      kind: 'probe',
      title: 't',
      inputs: { a: 1, b: [1, 2], c: 'x' },
      result: null,
      note: '',
    },
    'post /solve': [chain['document'], vhf['document']].map((document) => ({
      document,
      frequencyHz: 8.294e6,
      powerW: 100,
      mode: 'CW',
    })) as Json,
  }
}

/** The cable of a chain’s first section. */
const aCable = (chain: Field): Json =>
  ((chain['document'] as Field)['stages'] as Field[]).find(({ kind }) => kind === 'line')!['cable']!

/** Exports and what asks who may in: in no table of bodies, and asked for all the same. */
const others: Target[] = [
  ...['log.csv', 'log.json', 'file', 'bin', 'calendar.ics'].map(
    (what) => `/api/stations/{stationId}/${what}`,
  ),
  ...['/api/access', '/api/access/tokens', '/api/backup/kept', '/api/changes?chain=%00&window=%ff'],
].map((path) => ({
  method: path.includes('changes') ? 'HEAD' : 'GET',
  path,
  body: undefined,
  query: [],
}))

async function targetsOf(base: string): Promise<Target[]> {
  const { paths } = JSON.parse((await send(base, 'GET', '/api/openapi.json')).text) as {
    paths: Record<
      string,
      Record<string, { requestBody?: unknown; parameters?: { name: string; in: string }[] }>
    >
  }
  const bodies = await examples(base)
  const described = Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, { requestBody, parameters = [] }]) => {
      const key = `${method} ${path.replace(/^\/api/, '')}`
      if (requestBody && !(key in bodies)) throw new Error(`There is no example of ${key}.`)
      return {
        method: method.toUpperCase(),
        path,
        body: requestBody ? bodies[key]! : undefined,
        query: parameters.filter((p) => p.in === 'query').map((p) => p.name),
      }
    }),
  )
  return [
    ...described,
    ...others,
    ...(['sign-in', 'join', 'tokens', 'passphrase'] as const).map((what): Target => ({
      method: what === 'passphrase' ? 'PUT' : 'POST',
      path: `/api/access/${what}`,
      body: { passphrase: 'x', code: 'x', name: 'x', scope: 'read', present: 'x', next: 'y' },
      query: [],
    })),
  ]
}

/** Ids that are there, by what they are of. */
async function idsOf(base: string): Promise<Record<string, string[]>> {
  const get = async (path: string) => JSON.parse((await send(base, 'GET', path)).text) as Json
  const station = (await get('/api/stations/merrow-point')) as Record<string, { id: string }[]>
  const page = (await get('/api/stations/merrow-point/readings')) as Record<
    string,
    { id: string; roundId: string }[]
  >
  return {
    stationId: ['merrow-point'],
    chainId: station['chains']!.map(({ id }) => id),
    gearId: station['gear']!.map(({ id }) => id),
    sweepId: ['whip-8m-spring', 'demo-sweep-1'],
    readingId: page['readings']!.map(({ id }) => id),
    roundId: page['readings']!.map(({ roundId }) => roundId),
    channelId: ['c1', 'c8'],
    revision: ['1', '0', '-1', '1e9', '1.5'],
    eventId: ['x'],
    measurementId: ['x'],
    runId: ['r1', 'r2'],
    attemptId: ['a1', 'a2'],
    plane: ['0', '1', '-1', '1e3', '999'],
    window: ['w1'],
    thingId: ['thing-l1', 'thing-l2', 'thing-p1'],
    noteId: ['n1', 'n2'],
    markId: ['m1', 'm2'],
  }
}

function compose({ method, path, body, query }: Target, ids: Record<string, string[]>) {
  const address = path.replace(/\{(\w+)\}/g, (_, name: string) =>
    random() < 0.15 ? one(junkIds) : one(ids[name] ?? ['x']),
  )
  const asked = query
    .filter(() => random() < 0.4)
    .map(
      (name) =>
        `${name}=${encodeURIComponent(one(['0', '-1', '1e9', '10', 'true', 'vhf-mast', '2026-04-18', 'rain', '"', '%', 'a\u0000', '9'.repeat(40)]))}`,
    )
  const full = address + (asked.length > 0 ? `?${asked.join('&')}` : '')
  if (body === undefined) return { method, path: full, body: undefined, headers: {} }
  const example = Array.isArray(body) ? one(body) : body
  // What is right is sent too, so that later requests meet what it left.
  const value = random() < 0.05 ? example : mangled(example)
  const text = JSON.stringify(value)
  const what = random()
  if (what < 0.02)
    return { method, path: full, body: text.slice(0, below(text.length)), headers: json }
  if (what < 0.03)
    return { method, path: full, body: text, headers: { 'content-type': 'text/plain' } }
  if (what < 0.04)
    return {
      method,
      path: full,
      body: text,
      headers: { ...json, 'content-encoding': one(['gzip', 'br', 'deflate', 'own']) },
    }
  if (what < 0.045) return { method, path: full, body: '[{"a":'.repeat(20_000), headers: json }
  if (what < 0.05)
    return {
      method,
      path: full,
      body: Buffer.from(Array.from({ length: below(200) }, () => below(256))),
      headers: json,
    }
  return { method, path: full, body: text, headers: json }
}

const json: Record<string, string> = { 'content-type': 'application/json' }

/** How long this program itself held up what it waits for: then it is not the server that is slow. */
const own = monitorEventLoopDelay()
own.enable()

const statuses = new Map<number, number>()
let failures = 0
let late = 0
let slowest = 0
/** So many are told with all that was sent. */
const TOLD = 20

function judge(sent: ReturnType<typeof compose>, { status, ms, text }: Answer): void {
  statuses.set(status, (statuses.get(status) ?? 0) + 1)
  slowest = Math.max(slowest, ms)
  const isLate = ms > (LONG.test(sent.path) ? LATE_LONG_MS : LATE_MS)
  if (status !== 500 && !isLate) return
  if (status === 500) failures++
  else late++
  if (failures + late > TOLD) return
  console.log(`${status} after ${ms.toFixed(0)} ms: ${sent.method} ${sent.path}`)
  console.log(`  sent ${String(sent.body).slice(0, 600)}`)
  console.log(`  came ${text.slice(0, 300)}`)
  console.log(`  the longest pause of this program itself: ${(own.max / 1e6).toFixed(0)} ms`)
}

console.log(`${TOTAL} mangled requests, seed ${seed}`)
for (let done = 0; done < TOTAL && failures < TOLD;) {
  const server = await startDemoServer()
  const targets = await targetsOf(server.url)
  const ids = await idsOf(server.url)
  let left = Math.min(EACH, TOTAL - done)
  done += left
  const worker = async () => {
    while (left-- > 0 && server.alive()) {
      const sent = compose(one(targets), ids)
      // A bin that is emptied, and a station that is gone, would leave nothing to ask for.
      if (
        sent.method === 'DELETE' &&
        /^\/api\/(stations\/[^/]+(\/bin)?|bin|chains\/[^/]+)$/.test(sent.path)
      )
        continue
      try {
        judge(sent, await send(server.url, sent.method, sent.path, sent.body, sent.headers))
      } catch (error) {
        failures++
        console.log(
          `${String(error)}: ${sent.method} ${sent.path} ${String(sent.body).slice(0, 300)}`,
        )
      }
    }
  }
  await Promise.all(Array.from({ length: AT_ONCE }, worker))
  if (!server.alive()) {
    failures++
    console.log('The server has ended.')
  }
  if (failures > 0) console.log(server.said().slice(-3000))
  await server.stop()
  console.log(`${done} sent, the slowest after ${slowest.toFixed(0)} ms`)
}
agent.destroy()
const told = [...statuses].sort(([a], [b]) => a - b).map(([status, n]) => `${n} × ${status}`)
console.log(
  `${told.join(', ')}; the slowest after ${slowest.toFixed(0)} ms, ${late} late; ${failures} failures`,
)
process.exit(failures + late > 0 ? 1 : 0)
