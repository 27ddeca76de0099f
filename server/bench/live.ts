/**
 * Twenty live meters and ten windows on one server: how long a meter waits for its answer, a window for a figure, and a
 * request of somebody else for a chain.
 */
import { startDemoServer } from '../demoServer.ts'

const METERS = 20
const WINDOWS = 10
const EVERY_MS = 100
const SECONDS = 15
const CHAIN = 'hf-long-run'

const server = await startDemoServer()
const stop = new AbortController()
const answered: number[] = []
const heard: number[] = []
const asked: number[] = []
const sentAt = new Map<string, number>()
let refused = 0

const quantiles = (times: number[]): string => {
  const sorted = times.toSorted((a, b) => a - b)
  const at = (q: number) => sorted[Math.floor(q * (sorted.length - 1))]?.toFixed(0) ?? '–'
  return `${at(0.5)} ms median, ${at(0.99)} ms at 99 % of ${times.length}`
}
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))

/** A window: notes when each figure arrives. */
async function listen(): Promise<void> {
  const { body } = await fetch(`${server.url}/api/changes?chain=${CHAIN}`, { signal: stop.signal })
  let rest = ''
  for await (const part of body!.pipeThrough(new TextDecoderStream())) {
    rest += part
    const lines = rest.split('\n')
    rest = lines.pop()!
    for (const line of lines) {
      if (!line.startsWith('data: [')) continue
      for (const { plane, forwardW } of JSON.parse(line.slice(6)) as {
        plane: number
        forwardW: number
      }[]) {
        const sent = sentAt.get(`${plane} ${forwardW}`)
        if (sent !== undefined) heard.push(performance.now() - sent)
      }
    }
  }
}

async function meter(index: number): Promise<void> {
  const plane = index < 8 ? index : index < 13 ? index - 8 : index - 13
  // Meters beyond the planes of one chain are on another.
  const chain = index < 8 ? CHAIN : index < 13 ? 'vhf-mast' : 'hf-amplifier'
  for (let i = 0; !stop.signal.aborted; i++) {
    const forwardW = Number((10 + i / 100).toFixed(2))
    const began = performance.now()
    if (chain === CHAIN) sentAt.set(`${plane} ${forwardW}`, began)
    const answer = await fetch(`${server.url}/api/live/${chain}/${plane}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ forwardW }),
    })
    await answer.text()
    answered.push(performance.now() - began)
    if (!answer.ok) refused++
    await pause(Math.max(0, EVERY_MS - (performance.now() - began)))
  }
}

async function somebody(): Promise<void> {
  while (!stop.signal.aborted) {
    const began = performance.now()
    await (await fetch(`${server.url}/api/chains/${CHAIN}`)).text()
    asked.push(performance.now() - began)
    await pause(40)
  }
}

try {
  const all = [
    ...Array.from({ length: WINDOWS }, listen),
    ...Array.from({ length: METERS }, (_, i) => meter(i)),
    somebody(),
  ].map((each) => each.catch(() => undefined))
  await pause(SECONDS * 1000)
  stop.abort()
  await Promise.all(all)
  console.log(
    `${METERS} live meters at ${1000 / EVERY_MS} a second, ${WINDOWS} windows, ${SECONDS} s`,
  )
  console.log(
    `a meter’s answer:              ${quantiles(answered)} (aim: 50 at 99 %); refused: ${refused}`,
  )
  console.log(
    `from the meter to a window:    ${quantiles(heard)}, of them up to 100 ms by gathering`,
  )
  console.log(`a chain that somebody asks for: ${quantiles(asked)} (aim: 50 at 99 %)`)

  for (let k = 0; k < 5; k++) {
    const readings = Array.from({ length: 20_000 }, (_, i) => ({
      channelId: 'c1',
      frequencyHz: 8.294e6,
      mode: 'data',
      powerW: 100,
      before: 'load',
      forwardW: 60 + (i % 40),
      readAt: new Date(Date.UTC(2025, 0, 1 + k) + i * 4000).toISOString(),
    }))
    const { ok } = await fetch(`${server.url}/api/chains/${CHAIN}/readings/many`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ readings }),
    })
    if (!ok) throw new Error('The readings were not taken.')
  }
  for (const file of ['log.csv', 'log.json']) {
    const began = performance.now()
    let bytes = 0
    const [median, p99, worst] = await server.loopDelay(async () => {
      const { body } = await fetch(`${server.url}/api/stations/merrow-point/${file}`)
      for await (const part of body!) bytes += part.byteLength
    })
    console.log(
      `${file} of 100 000 readings, ${(bytes / 1e6).toFixed(0)} MB in ${((performance.now() - began) / 1000).toFixed(1)} s: ` +
        `event loop ${median.toFixed(1)} ms median, ${p99.toFixed(1)} ms at 99 % (aim: 20), worst ${worst.toFixed(0)} ms`,
    )
  }
} finally {
  await server.stop()
}
