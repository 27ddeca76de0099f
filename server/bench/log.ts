/** How quick a log of a hundred thousand readings is: pages, filters, years, export. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { newId, readingsQuerySchema } from '@saltline/contract'
import { openDatabase } from '../src/db/open.ts'
import { readings, rounds } from '../src/db/schema.ts'
import { write } from '../src/db/writes.ts'
import { seedDemo } from '../src/demo/seed.ts'
import { stationId } from '../src/demo/merrowPoint.ts'
import { stationAlerts } from '../src/store/alerts.ts'
import { logAsCsv } from '../src/store/logFiles.ts'
import { listReadings } from '../src/store/log.ts'
import { refreshRounds } from '../src/store/rounds.ts'
import { yearRows } from '../src/store/years.ts'

const READINGS = 100_000
const PER_ROUND = 12

const folder = mkdtempSync(join(tmpdir(), 'saltline-bench-'))
const db = await openDatabase(join(folder, 'log.sqlite'), { create: true })
await seedDemo(db)

const channels = ['c1', 'c2', 'c3']
const places = ['patch', 'mast', 'joint', 'load']
await write(db, async (tx) => {
  for (let r = 0; r < READINGS / PER_ROUND; r++) {
    const at = new Date(Date.UTC(2015, 0, 1) + r * 11 * 3600 * 1000).toISOString()
    const roundId = newId()
    await tx.insert(rounds).values({
      id: roundId,
      stationId,
      chainId: 'vhf-mast',
      startedAt: at,
      lastAt: at,
      note: '',
    })
    await tx.insert(readings).values(
      channels.flatMap((channelId) =>
        places.map((before, i) => ({
          id: newId(),
          stationId,
          chainId: 'vhf-mast',
          roundId,
          channelId,
          frequencyHz: 156.45e6,
          mode: 'FM' as const,
          powerW: 25,
          before,
          place: before,
          forwardW: 25 - 2 * i + Math.sin(r),
          reflectedW: 0.1,
          instrument: '',
          weather: r % 3 === 0 ? 'dry' : 'wet, south-west',
          by: r % 2 === 0 ? 'Ada' : 'Bo',
          note: r === 77 ? 'old connector, green inside' : r % 50 === 0 ? 'rain' : '',
          readAt: at,
          expectedW: 25 - 2 * i,
          lowW: 22 - 2 * i,
          highW: 28 - 2 * i,
          expectedSwr: 1.2,
          inside: r % 40 !== 0,
        })),
      ),
    )
    await refreshRounds(tx, [roundId])
  }
})

async function timed(what: string, run: () => Promise<unknown>): Promise<void> {
  await run()
  const began = performance.now()
  for (let i = 0; i < 5; i++) await run()
  console.log(`${what.padEnd(44)} ${((performance.now() - began) / 5).toFixed(1).padStart(8)} ms`)
}
const page = (query: object) => () => listReadings(db, stationId, readingsQuerySchema.parse(query))

console.log(`A log of ${READINGS} readings`)
await timed('first page', page({}))
await timed('page in the middle', page({ offset: READINGS / 2 }))
await timed('last page', page({ offset: READINGS - 100 }))
await timed('one channel of one chain', page({ chain: 'vhf-mast', channel: 'c2' }))
await timed('outside of what was expected', page({ outside: 'true' }))
await timed('a word in one note in fifty', page({ text: 'rain' }))
await timed('a word in one old round', page({ text: 'green inside' }))
await timed('a word in two notes of three', page({ text: 'south-west' }))
await timed('a word that is nowhere', page({ text: 'xyzzy' }))
await timed('two letters', page({ text: 'Bo' }))
await timed('two letters that are nowhere', page({ text: 'qq' }))
await timed('a place and an instrument', page({ before: 'mast', instrument: 'heron' }))
await timed(
  'a word, a place and a year',
  page({ text: 'dry', before: 'mast', from: '2018-01-01', to: '2018-12-31' }),
)
await timed('one channel over the years', () => yearRows(db, 'vhf-mast', 'c1'))
await timed('alerts of the station', () => stationAlerts(db, stationId))
await timed('export as CSV', async () => {
  let size = 0
  for await (const portion of logAsCsv(db, stationId)) size += portion.length
  return size
})
db.close()
rmSync(folder, { recursive: true })
