import { expect, test } from 'vitest'
import { CHAIN_DOCUMENT_VERSION, chainDocumentSchema, stationFileSchema } from '../src/index.ts'

/** As version 1 wrote it. */
const first = {
  version: 1,
  name: 'HF',
  transmitter: { name: 'Petrel 125', ratedW: 125, behaviour: 'levelled', foldback: [] },
  stages: [{ id: 'a', kind: 'pad', part: 'meter', name: 'Meter', lossDb: 0.1 }],
  load: { kind: 'fixed', name: 'Vee', rOhm: 50, xOhm: 0 },
  channels: [
    { id: 'x', frequencyHz: 4.146e6, mode: 'voice', powerW: 125 },
    { id: 'y', frequencyHz: 12.353e6, mode: 'data', powerW: 60 },
  ],
}

test('a document of version 1 is brought to this version, and nothing of it is lost', () => {
  const now = chainDocumentSchema.parse(first)
  expect(now).toEqual({
    ...first,
    version: CHAIN_DOCUMENT_VERSION,
    channels: [{ ...first.channels[0], mode: 'voice-plain' }, first.channels[1]],
  })
  expect(chainDocumentSchema.parse(now)).toEqual(now)
  expect(first.version).toBe(1)
})

test('a station file carries old chains along', () => {
  const file = {
    format: 'saltline-station',
    version: 1,
    station: { name: 'Merrow Point' },
    gear: [],
    antennas: [],
    chains: [first],
  }
  expect(stationFileSchema.parse(file).chains[0]!.document.version).toBe(CHAIN_DOCUMENT_VERSION)
})

test.each([
  [{ ...first, version: 99 }, 'version', /Update Salt Line/],
  [{ ...first, version: undefined }, 'version', /version/],
  [{ ...first, channels: 'none' }, 'channels', /array/],
  [{ ...first, channels: [{ ...first.channels[0], mode: 'shouting' }] }, 'channels.0.mode', /./],
])('what cannot be brought up is refused where it is wrong', (document, path, message) => {
  const { error } = chainDocumentSchema.safeParse(document)
  expect(error!.issues[0]!.path.join('.')).toBe(path)
  expect(error!.issues[0]!.message).toMatch(message)
})
