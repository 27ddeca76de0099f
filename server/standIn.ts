/** A stand-in for a meter that can talk: it reads a station with a hidden fault and answers over HTTP, on this machine. */
import { createServer } from 'node:http'
import { parseArgs } from 'node:util'
import {
  faultKinds,
  findDrill,
  hiddenOf,
  kindsOf,
  placeName,
  seeded,
  seedNumber,
} from '@saltline/core'

const HELP = `npm run stand-in -- meter [options]

Plays a meter at a plane of a practice station. GET / answers one reading as JSON:
{ "at", "place", "frequencyHz", "forwardW", "reflectedW" }.

  --fault KIND     ${faultKinds.join(', ')} (none)
  --seed WORDS     the same seed is the same station (gull-417)
  --plane N        0 is at the radio; the last is at the antenna (0)
  --channel N      0, 1 or 2 (0)
  --meter N        0: the station's own, 1: the other one (0)
  --port N         on 127.0.0.1; 0 takes a free one (8600)
  --to ADDRESS     send there instead: http://127.0.0.1:4173/api/live/CHAIN/PLANE
  --token TOKEN    of a Salt Line that is open to the network
  --every MS       how often it sends (200)
  --help`

class UsageError extends Error {}

function whole(name: string, text: string, least: number, most: number): number {
  const value = Number(text)
  if (!Number.isInteger(value) || value < least || value > most)
    throw new UsageError(`--${name} must be a whole number from ${least} to ${most}.`)
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
      plane: { type: 'string', default: '0' },
      channel: { type: 'string', default: '0' },
      meter: { type: 'string', default: '0' },
      port: { type: 'string', default: '8600' },
      to: { type: 'string' },
      token: { type: 'string' },
      every: { type: 'string', default: '200' },
      help: { type: 'boolean', default: false },
    },
  })
  if (values.help || positionals.length === 0) return null
  if (positionals[0] !== 'meter')
    throw new UsageError(`There is no stand-in “${positionals[0]}”; there is: meter.`)
  const kind = kindsOf(1).find((each) => each === values.fault)
  if (!kind) throw new UsageError(`--fault is one of ${faultKinds.join(', ')}.`)
  const drill = findDrill(values.seed, 1, kind)
  const plane = whole('plane', values.plane, 0, drill.station.chain.stages.length)
  const point = whole('channel', values.channel, 0, 2)
  const instrument = whole('meter', values.meter, 0, 1)
  const hidden = hiddenOf(drill)
  const random = seeded(seedNumber(values.seed) + 7)
  if (values.to !== undefined && !URL.canParse(values.to))
    throw new UsageError('--to must be an address: http://…/api/live/CHAIN/PLANE.')
  return {
    to: values.to,
    token: values.token,
    everyMs: whole('every', values.every, 20, 60_000),
    port: whole('port', values.port, 0, 65_535),
    read: () => ({
      at: new Date().toISOString(),
      place: placeName(drill, plane),
      frequencyHz: drill.station.channels[point]!.frequencyHz,
      ...hidden.show({ point, instrument }, hidden.wavesAt(point)[plane]!, random),
    }),
  }
}

/** Sends figures for as long as nobody stops it; what is refused is said once. */
export function sendStandIn(
  { to, token, everyMs, read }: NonNullable<ReturnType<typeof standIn>>,
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
      headers: {
        'content-type': 'application/json',
        ...(token && { authorization: `Bearer ${token}` }),
      },
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
export function serveStandIn({ port, read }: NonNullable<ReturnType<typeof standIn>>) {
  const server = createServer((request, response) => {
    const known = request.method === 'GET' && request.url === '/'
    response.writeHead(known ? 200 : 404, { 'content-type': 'application/json' })
    response.end(JSON.stringify(known ? read() : { title: 'A reading is at GET /.' }))
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
    const meter = standIn(process.argv.slice(2))
    if (!meter) console.log(HELP)
    else if (meter.to) sendStandIn(meter, console.log)
    else console.log(`A meter answers at ${(await serveStandIn(meter)).url}`)
  } catch (error) {
    console.error(`${(error as Error).message}\n\n${HELP}`)
    process.exitCode = 2
  }
}
