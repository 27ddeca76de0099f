import { readFile } from 'node:fs/promises'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { stationFileSchema } from '@saltline/contract'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

const demoFile = async () => (await h.call('GET', '/api/stations/merrow-point/file')).body

interface Entry {
  id: string
  document: { name: string }
}

/** What a file says, without the ids that an import makes anew. */
function withoutIds(file: Record<string, unknown>): unknown {
  const own = new Map((file['gear'] as Entry[]).map(({ id, document }) => [id, document.name]))
  // Lists without an order of their own, or ordered by ids that differ.
  const sorted = <T>(list: T[]): T[] =>
    list.toSorted((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1))
  const plain = JSON.parse(
    JSON.stringify(file, (key, value: unknown) =>
      /^(id|antennaId|sweepId|chainId|roundId|instrumentId|thingId)$/.test(key)
        ? undefined
        : key === 'shipped'
          ? String(value).split(' ')[0]
          : // A class of the catalogue keeps its id; an entry of Gear is known by its name.
            key === 'gearId'
            ? (own.get(String(value)) ?? value)
            : value,
    ),
  )
  for (const key of Object.keys(plain.log)) plain.log[key] = sorted(plain.log[key])
  plain.gear = sorted(plain.gear)
  plain.duties.sort((a: { title: string }, b: { title: string }) => (a.title < b.title ? -1 : 1))
  return plain
}

describe('a station as one file', () => {
  test('goes out and comes in again the same, beside what is there', async () => {
    const file = await demoFile()
    const before = (await h.call('GET', '/api/stations')).body.length
    const made = await h.call('POST', '/api/station-files', file)
    expect(made.status).toBe(201)
    expect((await h.call('GET', '/api/stations')).body).toHaveLength(before + 1)
    const again = (await h.call('GET', `/api/stations/${made.body.id}/file`)).body
    expect(file.log.readings.length).toBeGreaterThan(50)
    expect(file.log.events.length).toBeGreaterThan(0)
    expect(withoutIds(again)).toEqual(withoutIds(file))
    // Each reading still belongs to its chain and its session.
    const rounds = new Map(
      again.log.rounds.map((r: { id: string; chainId: string }) => [r.id, r.chainId]),
    )
    for (const reading of again.log.readings)
      expect(rounds.get(reading.roundId)).toBe(reading.chainId)
    // Its radios are entries of its own Gear.
    const radios = again.chains.map(
      ({ document }: { document: { transmitter: { gearId: string } } }) =>
        document.transmitter.gearId,
    )
    expect(again.gear.map(({ id }: Entry) => id)).toEqual(expect.arrayContaining(radios))
    // Its instruments are those of the new station.
    const ids = new Set(again.gear.map((g: { id: string }) => g.id))
    expect(again.log.readings.some((r: { instrumentId: string }) => ids.has(r.instrumentId))).toBe(
      true,
    )
  })

  test('an imported chain solves to the same watts', async () => {
    const made = (await h.call('POST', '/api/station-files', await demoFile())).body
    const { document } = (await h.call('GET', `/api/chains/${made.chains[0].id}`)).body
    const { body } = await h.call('POST', '/api/solve', {
      document,
      frequencyHz: 8.294e6,
      powerW: 125,
    })
    expect(body.solution.antennaW).toBeCloseTo(81.53, 1)
  })

  test('an import is undone by deleting what it added', async () => {
    const made = (await h.call('POST', '/api/station-files', await demoFile())).body
    await h.call('DELETE', `/api/stations/${made.id}`)
    expect((await h.call('GET', `/api/stations/${made.id}`)).status).toBe(404)
    expect((await h.call('GET', '/api/stations/merrow-point')).status).toBe(200)
  })

  test('any sweep survives the round trip to the last bit', async () => {
    const file = await demoFile()
    const part = fc.double({ min: -0.7, max: 0.7, noNaN: true }).map((x) => x + 0)
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(part, part), { minLength: 1, maxLength: 30 }),
        async (points) => {
          const sweep = {
            id: 'made-up',
            name: 'made up',
            phaseKnown: points.length % 2 === 0,
            frequencyHz: points.map((_, i) => 1e6 + i * 1234.5),
            re: points.map((p) => p[0]),
            im: points.map((p) => p[1]),
          }
          const own = {
            ...file,
            chains: [],
            duties: [],
            log: { rounds: [], readings: [], events: [], measurements: [] },
            antennas: [{ id: 'one', name: 'One', note: '', sweeps: [sweep] }],
          }
          const { body } = await h.call('POST', '/api/station-files', own)
          const back = (await h.call('GET', `/api/stations/${body.id}/file`)).body.antennas[0]
            .sweeps[0]
          expect({ ...back, id: 'made-up' }).toEqual(sweep)
        },
      ),
      { numRuns: 15 },
    )
  })
})

describe('a file that will not do', () => {
  const refuse = async (change: (file: Awaited<ReturnType<typeof demoFile>>) => void) => {
    const file = await demoFile()
    change(file)
    const before = (await h.call('GET', '/api/stations')).body.length
    const { status, body } = await h.call('POST', '/api/station-files', file)
    expect(status).toBe(422)
    expect((await h.call('GET', '/api/stations')).body).toHaveLength(before)
    return body.errors as { pointer: string; message: string }[]
  }

  test('another kind of file', async () => {
    const [first] = await refuse((file) => (file.format = 'shopping-list'))
    expect(first).toMatchObject({
      pointer: '/format',
      message: expect.stringContaining('not a Salt Line station file'),
    })
  })
  test('a later version', async () => {
    const [first] = await refuse((file) => (file.version = 99))
    expect(first!.message).toContain('Update Salt Line')
  })
  test('a chain whose sweep is missing', async () => {
    const errors = await refuse((file) => (file.antennas = []))
    expect(errors[0]).toMatchObject({ pointer: '/chains/0/document/load/sweepId' })
  })
  test('a reading of a chain that is not there, an id that stands twice', async () => {
    const [lost] = await refuse((file) => (file.log.readings[0].chainId = 'nowhere'))
    expect(lost).toMatchObject({ pointer: '/log/readings/0/chainId' })
    const [twice] = await refuse((file) => (file.chains[1].id = file.chains[0].id))
    expect(twice).toMatchObject({
      pointer: '/chains/1/id',
      message: expect.stringContaining('stands twice'),
    })
  })
  test('a reading far down in a long record is named by its place, and nothing of it stays', async () => {
    const errors = await refuse((file) => {
      const [reading] = file.log.readings
      file.log.readings = Array.from({ length: 4500 }, (_, i) => ({ ...reading, id: `r${i}` }))
      file.log.readings[2100].forwardW = 'much'
      file.log.readings[4400].id = 'r17'
    })
    expect(errors).toEqual([
      { pointer: '/log/readings/2100/forwardW', message: expect.any(String) },
      { pointer: '/log/readings/4400/id', message: 'The id “r17” stands twice.' },
    ])
  })
  test.each([
    ['breaks off', (text: string) => text.slice(0, -200)],
    [
      'breaks off among its readings',
      (text: string) => text.slice(0, text.indexOf('"readings"') + 900),
    ],
    ['has a comma too many', (text: string) => text.replace('],"events"', ',],"events"')],
    ['has no comma between two readings', (text: string) => text.replace('},\n{"id"', '}\n{"id"')],
  ])('a text that %s is no JSON', async (_, change) => {
    const text = await (await fetch(`${h.base}/api/stations/merrow-point/file`)).text()
    const before = (await h.call('GET', '/api/stations')).body.length
    const changed = change(text)
    expect(changed).not.toBe(text)
    const { status, body } = await h.call('POST', '/api/station-files', changed)
    expect([status, body.title]).toEqual([400, 'Not readable'])
    expect((await h.call('GET', '/api/stations')).body).toHaveLength(before)
  })
  test('a sweep that goes backward', async () => {
    const errors = await refuse((file) => file.antennas[0].sweeps[0].frequencyHz.reverse())
    expect(errors[0]!.pointer).toBe('/antennas/0/sweeps/0/frequencyHz')
  })
})

test('a file of version 1, with bare chains and no log, still comes in', async () => {
  const file = await demoFile()
  const { log: _, ...rest } = file
  const old = {
    ...rest,
    version: 1,
    chains: file.chains.map(({ document }: { document: unknown }) => document),
  }
  const made = await h.call('POST', '/api/station-files', old)
  expect(made.status).toBe(201)
  expect(made.body.chains).toHaveLength(file.chains.length)
})

test('the JSON Schema is published, is the one in docs, and names what the file must have', async () => {
  const { body } = await h.call('GET', '/api/schema/station.json')
  expect(body.$schema).toContain('json-schema.org')
  const schema = body.$defs[String(body.$ref).replace('#/$defs/', '')]
  expect(schema.required).toEqual(
    expect.arrayContaining(['format', 'version', 'station', 'chains']),
  )
  const inDocs = await readFile(new URL('../../docs/station.schema.json', import.meta.url), 'utf8')
  expect(JSON.parse(inDocs)).toEqual(body)
  expect(stationFileSchema.safeParse(await demoFile()).success).toBe(true)
})
