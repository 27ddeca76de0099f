import { CHAIN_DOCUMENT_VERSION, type ChainDocument, type ChainState } from '@saltline/contract'

const cable = {
  name: '5 mm solid PE',
  z0Ohm: 50,
  velocityFactor: 0.66,
  k1DbPer100m: 1.45,
  k2DbPer100m: 0.006,
}

export const document: ChainDocument = {
  version: CHAIN_DOCUMENT_VERSION,
  name: 'Test chain',
  transmitter: {
    name: 'Petrel',
    ratedW: 100,
    behaviour: 'levelled',
    foldback: [
      [1.5, 1],
      [3, 0.5],
    ],
  },
  stages: [
    { id: 'a', kind: 'line', name: 'Lead', lengthM: 10, cable },
    { id: 'b', kind: 'pad', part: 'meter', name: 'Meter', lossDb: 0.1 },
    { id: 'c', kind: 'line', name: 'Run', lengthM: 40, cable },
  ],
  load: { kind: 'fixed', name: 'Vee', rOhm: 50, xOhm: 0 },
  channels: [
    { id: 'c1', frequencyHz: 4.146e6, mode: 'voice-plain', powerW: 100 },
    { id: 'c2', frequencyHz: 8.294e6, mode: 'data', powerW: 50 },
  ],
}

export const state = (over: Partial<ChainState> = {}): ChainState => ({
  id: 'chain',
  stationId: 'station',
  revision: 1,
  epoch: '',
  savedAt: '2026-05-01T08:00:00.000Z',
  canUndo: false,
  canRedo: false,
  document,
  ...over,
})
