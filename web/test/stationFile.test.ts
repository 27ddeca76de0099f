import { stationFileSchema } from '@saltline/contract'
import { describe, expect, test } from 'vitest'
import { readStationFile } from '../src/model/stationFile.ts'
import { document as chain } from './fixtures.ts'

const file = (log: object = {}) => ({
  format: 'saltline-station',
  version: 2,
  station: { name: 'Merrow Point' },
  gear: [],
  antennas: [],
  chains: [{ id: 'one', document: chain }],
  log: { rounds: [], readings: [], events: [], measurements: [], ...log },
})
const read = (value: unknown) =>
  readStationFile(new Blob([typeof value === 'string' ? value : JSON.stringify(value)]))

describe('a station file before it is brought in', () => {
  test('says what is in it, its readings counted and not read', async () => {
    const readings = Array.from({ length: 2345 }, (_, i) => ({ note: `“],” ${i}` }))
    const found = await read(file({ readings }))
    expect(found).toMatchObject({ ok: true, readingCount: 2345 })
    expect(found.ok && found.file.chains[0]!.document.name).toBe(chain.name)
    // What is told of all else is what the whole schema makes of it.
    expect(found.ok && found.file).toEqual(stationFileSchema.parse(file()))
  })

  test('another file is named for what it is', async () => {
    expect(await read('SQLite format 3\0and more')).toMatchObject({
      ok: false,
      message: expect.stringContaining('backup of a whole database'),
    })
    for (const text of ['', 'chain,power', '{"format":'])
      expect(await read(text)).toMatchObject({
        ok: false,
        message: expect.stringContaining('JSON'),
      })
    expect(await read({ ...file(), format: 'list' })).toMatchObject({
      ok: false,
      message: expect.stringMatching(/not a Salt Line station file.*\(at format\)/),
    })
  })

  test('what is wrong has its place', async () => {
    const twice = { ...file(), gear: [{ id: 'x' }] }
    expect(await read(twice)).toMatchObject({
      ok: false,
      message: expect.stringContaining('gear › 0'),
    })
  })
})
