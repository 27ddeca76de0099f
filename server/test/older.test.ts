/** What older versions left behind, and what newer kinds of gear and sweeps look like over HTTP. */
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { CHAIN_DOCUMENT_VERSION, type ChainDocument } from '@saltline/contract'
import { and, eq } from 'drizzle-orm'
import { chainRevisions } from '../src/db/schema.ts'
import { readChain, readRevision } from '../src/store/chains.ts'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

/** Puts the demo's VHF chain back to how version 1 would have stored it. */
async function storeAsVersion1() {
  const at = and(eq(chainRevisions.chainId, 'vhf-mast'), eq(chainRevisions.revision, 1))
  const [row] = await h.db.select().from(chainRevisions).where(at)
  const old = {
    ...row!.document,
    version: 1,
    channels: row!.document.channels.map((channel) => ({ ...channel, mode: 'voice' })),
  }
  // The type knows only the present version; the file on the disk may hold any.
  await h.db
    .update(chainRevisions)
    .set({ document: old as unknown as ChainDocument })
    .where(at)
}

describe('a chain that an older version stored', () => {
  beforeAll(storeAsVersion1)

  test('is read in the present version', async () => {
    const { status, body } = await h.call('GET', '/api/chains/vhf-mast')
    expect(status).toBe(200)
    expect(body.document.version).toBe(CHAIN_DOCUMENT_VERSION)
    expect(body.document.channels.map((c: { mode: string }) => c.mode)).toEqual(
      Array(4).fill('voice-plain'),
    )
  })

  test('is seen in the present version by everything inside the server too', async () => {
    for (const document of [
      (await readChain(h.db, 'vhf-mast')).document,
      (await readRevision(h.db, 'vhf-mast', 1)).document,
    ])
      expect(document).toMatchObject({
        version: CHAIN_DOCUMENT_VERSION,
        channels: Array(4).fill({ mode: 'voice-plain' }),
      })
    expect((await h.call('GET', '/api/stations/merrow-point/alerts')).status).toBe(200)
  })

  test('is edited, and undone to, like any other', async () => {
    const { body } = await h.call('GET', '/api/chains/vhf-mast')
    const saved = await h.call('PUT', '/api/chains/vhf-mast', {
      baseRevision: body.revision,
      document: { ...body.document, name: 'VHF, renamed' },
      summary: 'renamed',
    })
    expect(saved.body.document.name).toBe('VHF, renamed')
    const undone = await h.call('POST', '/api/chains/vhf-mast/undo', {
      baseRevision: saved.body.revision,
    })
    expect(undone.body.document).toMatchObject({
      name: 'VHF mast',
      version: CHAIN_DOCUMENT_VERSION,
    })
  })

  test('is looked at as a revision, and exported with its station', async () => {
    const revision = await h.call('GET', '/api/chains/vhf-mast/revisions/1')
    expect(revision.body.version).toBe(CHAIN_DOCUMENT_VERSION)
    const { body } = await h.call('GET', '/api/stations/merrow-point/file')
    const versions = body.chains.map((c: { document: { version: number } }) => c.document.version)
    expect(new Set(versions)).toEqual(new Set([CHAIN_DOCUMENT_VERSION]))
  })

  test('and a script that still speaks the old version is understood', async () => {
    const { body } = await h.call('GET', '/api/chains/vhf-mast')
    const old = {
      ...body.document,
      version: 1,
      channels: [{ id: 'a', frequencyHz: 156.45e6, mode: 'voice', powerW: 25 }],
    }
    const solved = await h.call('POST', '/api/solve', {
      document: old,
      frequencyHz: 156.45e6,
      powerW: 25,
    })
    expect(solved.status).toBe(200)
    expect(solved.body.solution.antennaW).toBeGreaterThan(10)
  })
})

describe('a sweep of which only the SWR was measured', () => {
  const touchstone = '# MHz S RI R 50\n7 0.5 0\n8 0.2 0\n'
  const add = (over = {}) =>
    h.call('POST', '/api/stations/merrow-point/antennas', {
      name: 'By the meter',
      touchstone,
      ...over,
    })

  test('says so wherever it goes, and gives ranges', async () => {
    const { status, body } = await add({ phaseKnown: false })
    expect(status).toBe(201)
    expect(body.sweeps[0].phaseKnown).toBe(false)
    const sweep = await h.call('GET', `/api/sweeps/${body.sweeps[0].id}`)
    expect(sweep.body).toMatchObject({ phaseKnown: false, re: [0.5, 0.2], im: [0, 0] })

    const { document } = (await h.call('GET', '/api/chains/hf-long-run')).body
    const solve = (load: unknown) =>
      h.call('POST', '/api/solve', {
        document: {
          ...document,
          stages: document.stages.filter((s: { kind: string }) => s.kind !== 'tuner'),
          load,
        },
        frequencyHz: 7e6,
        powerW: 100,
      })
    const swept = await solve({
      kind: 'antenna',
      name: 'By the meter',
      antennaId: body.id,
      sweepId: body.sweeps[0].id,
    })
    const plain = await solve({ kind: 'swr', name: 'SWR 3', swr: 3 })
    expect(swept.body.spread.antennaW.low).toBeCloseTo(plain.body.spread.antennaW.low, 6)
    expect(swept.body.spread.antennaW.high).toBeCloseTo(plain.body.spread.antennaW.high, 6)
  })

  test('one with its phase is the usual case', async () => {
    expect((await add()).body.sweeps[0].phaseKnown).toBe(true)
  })
})

describe('amplifiers and tuners as gear', () => {
  test('the demo keeps its own, and others are added, changed, deleted and taken back', async () => {
    const kinds = async () =>
      (await h.call('GET', '/api/stations/merrow-point')).body.gear
        .map((g: { kind: string }) => g.kind)
        .sort()
    expect(await kinds()).toEqual([
      'amplifier',
      'instrument',
      'instrument',
      'instrument',
      'instrument',
      'transmitter',
      'transmitter',
      'tuner',
    ])
    const { body: station } = await h.call('GET', '/api/stations/merrow-point')
    const bollard = station.gear.find((g: { kind: string }) => g.kind === 'amplifier')
    const body = { kind: 'amplifier', document: { ...bollard.document, name: 'Bollard 1000' } }
    const added = await h.call('POST', '/api/stations/merrow-point/gear', body)
    expect(added.status).toBe(201)
    const changed = await h.call('PUT', `/api/gear/${added.body.id}`, {
      ...body,
      document: { ...body.document, fullW: 600 },
    })
    expect(changed.body.document.fullW).toBe(600)
    await h.call('DELETE', `/api/gear/${added.body.id}`)
    expect(await kinds()).toHaveLength(8)
    await h.call('POST', `/api/gear/${added.body.id}/restore`)
    expect(await kinds()).toHaveLength(9)
  })

  test('what no amplifier can be is refused by its field', async () => {
    const { body: station } = await h.call('GET', '/api/stations/merrow-point')
    const bollard = station.gear.find((g: { kind: string }) => g.kind === 'amplifier')
    const { status, body } = await h.call('POST', '/api/stations/merrow-point/gear', {
      kind: 'amplifier',
      document: { ...bollard.document, gainDb: 3 },
    })
    expect(status).toBe(422)
    expect(body.errors[0]).toMatchObject({
      pointer: '/document/gainDb',
      message: expect.stringContaining('raise the gain or the drive') as string,
    })
  })
})
