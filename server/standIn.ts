/** A stand-in for a meter or an analyser that can talk: it looks at a station with a hidden fault, over HTTP, on this machine. */
import { createServer } from 'node:http'
import { parseArgs } from 'node:util'
import {
  ANALYSER_FROM,
  faultKinds,
  findDrill,
  frequencyGrid,
  hiddenOf,
  placeName,
  seeded,
  seedNumber,
  writeTouchstone,
} from '@saltline/core'
import { farEnds } from '@saltline/contract'

const HELP = `npm run stand-in -- meter | analyser [options]

Plays a meter or an analyser at a plane of a practice station. GET / answers one reading as JSON,
{ "at", "place", "frequencyHz", "forwardW", "reflectedW" }, or a sweep as a Touchstone file.

  --fault KIND     ${faultKinds.join(', ')} (none)
  --seed WORDS     the same seed is the same station (gull-417)
  --plane N        0 is at the radio; the last is at the antenna (0; of an analyser behind the last tuner)
  --port N         on 127.0.0.1; 0 takes a free one (8600)
  --to ADDRESS     send there instead: http://127.0.0.1:4173/api/live/CHAIN/PLANE,
                   or http://127.0.0.1:4173/api/chains/CHAIN/line-sweeps once
  --token TOKEN    of a Salt Line that is open to the network

of a meter
  --channel N      0, 1 or 2 (0)
  --meter N        0: the station's own, 1: the other one (0)
  --every MS       how often it sends (200)

of an analyser
  --from MHZ       where the sweep begins (10), and with --until MHZ where it ends (500)
  --points N       (401)
  --end STATE      of the far end: ${farEnds.join(', ')} (antenna)
  --noise RHO      of each part, as a deviation (0.001)
  --directivity DB (40)
  --before PLACE   what the plane is called in the chain that it is sent to

  --help`

const whats = ['meter', 'analyser'] as const

class UsageError extends Error {}

function whole(name: string, text: string, least: number, most: number): number {
  const value = Number(text)
  if (!Number.isInteger(value) || value < least || value > most)
    throw new UsageError(`--${name} must be a whole number from ${least} to ${most}.`)
  return value
}

function figure(name: string, text: string, least: number, most: number): number {
  const value = Number(text)
  if (!(value >= least && value <= most))
    throw new UsageError(`--${name} must be a number from ${least} to ${most}.`)
  return value
}

/** Reads the options, and makes a function that reads the meter once more each time. */
export function standIn(args: readonly string[]) {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      fault: { type: 'string', default: 'none' },
      seed: { type: 'string', default: 'gull-417' },
      plane: { type: 'string' },
      channel: { type: 'string', default: '0' },
      meter: { type: 'string', default: '0' },
      port: { type: 'string', default: '8600' },
      to: { type: 'string' },
      token: { type: 'string' },
      every: { type: 'string', default: '200' },
      from: { type: 'string', default: '10' },
      until: { type: 'string', default: '500' },
      points: { type: 'string', default: '401' },
      end: { type: 'string', default: 'antenna' },
      noise: { type: 'string', default: '0.001' },
      directivity: { type: 'string', default: '40' },
      before: { type: 'string' },
      help: { type: 'boolean', default: false },
    },
  })
  if (values.help || positionals.length === 0) return null
  const what = whats.find((each) => each === positionals[0])
  if (!what)
    throw new UsageError(`There is no stand-in “${positionals[0]}”; there is: ${whats.join(', ')}.`)
  const kind = faultKinds.find((each) => each === values.fault)
  if (!kind) throw new UsageError(`--fault is one of ${faultKinds.join(', ')}.`)
  const drill = findDrill(values.seed, ANALYSER_FROM, kind)
  const { stages } = drill.station.chain
  const behind = stages.findLastIndex(({ kind: own }) => own === 'tuner' || own === 'amplifier') + 1
  const usual = what === 'meter' ? 0 : behind
  const plane = whole('plane', values.plane ?? String(usual), usual, stages.length)
  const point = whole('channel', values.channel, 0, 2)
  const instrument = whole('meter', values.meter, 0, 1)
  const hidden = hiddenOf(drill)
  const random = seeded(seedNumber(values.seed) + 7)
  if (values.to !== undefined && !URL.canParse(values.to))
    throw new UsageError('--to must be an address: http://…/api/live/CHAIN/PLANE.')
  const sent = {
    to: values.to,
    token: values.token,
    everyMs: whole('every', values.every, 20, 60_000),
    port: whole('port', values.port, 0, 65_535),
  }
  if (what === 'analyser') {
    const farEnd = farEnds.find((each) => each === values.end)
    if (!farEnd) throw new UsageError(`--end is one of ${farEnds.join(', ')}.`)
    const lowHz = figure('from', values.from, 0.1, 6000) * 1e6
    const highHz = figure('until', values.until, 0.1, 6000) * 1e6
    if (lowHz >= highHz) throw new UsageError('--until must be more than --from.')
    const hz = frequencyGrid(lowHz, highHz, whole('points', values.points, 2, 20_001))
    const analyser = {
      noise: figure('noise', values.noise, 0, 0.5),
      directivityDb: figure('directivity', values.directivity, 3, 100),
    }
    return {
      ...sent,
      what: 'analyser' as const,
      farEnd,
      before: values.before,
      place: placeName(drill, plane),
      read: () => {
        const { re, im } = hidden.sweep(plane, hz, farEnd, analyser, random)
        const comments = [`a practice station, ${placeName(drill, plane)}, far end: ${farEnd}`]
        return writeTouchstone({ referenceOhm: 50, frequencyHz: hz, re, im, comments })
      },
    }
  }
  return {
    ...sent,
    what: 'meter' as const,
    read: () => ({
      at: new Date().toISOString(),
      place: placeName(drill, plane),
      frequencyHz: drill.station.channels[point]!.frequencyHz,
      ...hidden.show({ point, instrument }, hidden.wavesAt(point)[plane]!, random),
    }),
  }
}

type StandIn = NonNullable<ReturnType<typeof standIn>>
type StandInMeter = Extract<StandIn, { what: 'meter' }>
type StandInAnalyser = Extract<StandIn, { what: 'analyser' }>

const headers = (token: string | undefined) => ({
  'content-type': 'application/json',
  ...(token && { authorization: `Bearer ${token}` }),
})

/** Sends one sweep, to be kept with the log of a chain. @returns what was answered */
export async function sendSweep({
  to,
  token,
  farEnd,
  before,
  place,
  read,
}: StandInAnalyser): Promise<string> {
  if (before === undefined)
    throw new UsageError('Say with --before where it is connected, as the chain names the stage.')
  const answer = await fetch(to!, {
    method: 'POST',
    headers: headers(token),
    body: JSON.stringify({
      ...{ before, farEnd, readAt: new Date().toISOString(), instrument: 'stand-in analyser' },
      ...{ name: `practice, ${place}`, touchstone: read() },
    }),
  })
  return answer.ok ? 'It is kept.' : `Refused, ${answer.status}: ${await answer.text()}`
}

/** Sends figures for as long as nobody stops it; what is refused is said once. */
export function sendStandIn(
  { to, token, everyMs, read }: StandInMeter,
  say: (line: string) => void,
): () => void {
  let last = ''
  const tell = (line: string) => {
    if (line !== last) say(line)
    last = line
  }
  const timer = setInterval(() => {
    const { at, forwardW, reflectedW } = read()
    fetch(to!, {
      method: 'POST',
      headers: headers(token),
      body: JSON.stringify({ at, forwardW, reflectedW }),
    }).then(
      async (answer) =>
        tell(answer.ok ? 'It is heard.' : `Refused, ${answer.status}: ${await answer.text()}`),
      (error: unknown) => tell(`Not heard: ${(error as Error).message}`),
    )
  }, everyMs)
  return () => clearInterval(timer)
}

/** Serves a stand-in on this machine alone. */
export function serveStandIn({ port, what, read }: StandIn) {
  const server = createServer((request, response) => {
    const known = request.method === 'GET' && request.url === '/'
    const sweep = known && what === 'analyser'
    response.writeHead(known ? 200 : 404, {
      'content-type': sweep ? 'text/plain; charset=utf-8' : 'application/json',
    })
    if (!known) return response.end(JSON.stringify({ title: 'It is at GET /.' }))
    const answer = read()
    return response.end(typeof answer === 'string' ? answer : JSON.stringify(answer))
  })
  return new Promise<{ url: string; close: () => void }>((done, failed) => {
    server.once('error', failed)
    server.listen(port, '127.0.0.1', () => {
      const address = server.address()
      const at = typeof address === 'object' && address ? address.port : port
      done({ url: `http://127.0.0.1:${at}/`, close: () => server.close() })
    })
  })
}

if (process.argv[1] === import.meta.filename) {
  try {
    const played = standIn(process.argv.slice(2))
    if (!played) console.log(HELP)
    else if (!played.to)
      console.log(`A stand-in answers at ${(await serveStandIn(played)).url} (${played.what})`)
    else if (played.what === 'meter') sendStandIn(played, console.log)
    else console.log(await sendSweep(played))
  } catch (error) {
    console.error(`${(error as Error).message}\n\n${HELP}`)
    process.exitCode = 2
  }
}
