/** A stand-in for a meter that can talk: it reads a station with a hidden fault and answers over HTTP, on this machine. */
import { createServer } from 'node:http'
import { parseArgs } from 'node:util'
import {
  type FaultKind,
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
      help: { type: 'boolean', default: false },
    },
  })
  if (values.help || positionals.length === 0) return null
  if (positionals[0] !== 'meter')
    throw new UsageError(`There is no stand-in “${positionals[0]}”; there is: meter.`)
  const kind = kindsOf(1).find((each) => each === values.fault) as FaultKind | undefined
  if (!kind) throw new UsageError(`--fault is one of ${faultKinds.join(', ')}.`)
  const drill = findDrill(values.seed, 1, kind)
  const plane = whole('plane', values.plane, 0, drill.station.chain.stages.length)
  const point = whole('channel', values.channel, 0, 2)
  const instrument = whole('meter', values.meter, 0, 1)
  const hidden = hiddenOf(drill)
  const random = seeded(seedNumber(values.seed) + 7)
  return {
    port: whole('port', values.port, 0, 65_535),
    read: () => ({
      at: new Date().toISOString(),
      place: placeName(drill, plane),
      frequencyHz: drill.station.channels[point]!.frequencyHz,
      ...hidden.show({ point, instrument }, hidden.wavesAt(point)[plane]!, random),
    }),
  }
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
    else console.log(`A meter answers at ${(await serveStandIn(meter)).url}`)
  } catch (error) {
    console.error(`${(error as Error).message}\n\n${HELP}`)
    process.exitCode = 2
  }
}
