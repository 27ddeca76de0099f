import { type ChainDocument, type EndpointKey, endpoints } from '@saltline/contract'
import http from 'node:http'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

const demoDocument = async () => (await h.call('GET', '/api/chains/hf-long-run')).body.document

async function newChain() {
  const { body } = await h.call('POST', '/api/stations/merrow-point/chains', await demoDocument())
  return body
}

test('what is missing, of another kind or of no known form is said in plain words', async () => {
  const words = async (path: string, sent: unknown) =>
    (await h.call('POST', path, sent)).body.errors as { pointer: string; message: string }[]
  expect(await words('/api/plan', {})).toContainEqual({
    pointer: '/sections',
    message: 'This is missing: a list is expected.',
  })
  expect(await words('/api/chains/hf-long-run/readings/delete', { ids: 'all' })).toEqual([
    { pointer: '/ids', message: 'This must be a list.' },
  ])
  const [mode] = await words('/api/chains/hf-long-run/line-sweeps', {
    ...{ before: 'load', readAt: '2026-03-01T10:00:00Z', touchstone: '', farEnd: 'loose' },
  })
  expect(mode).toEqual({
    pointer: '/farEnd',
    message: 'This is not known: one of “antenna”, “open”, “short”, “load” is expected.',
  })
})

describe('solving', () => {
  test('a script can solve a chain document without the interface', async () => {
    const { status, body } = await h.call('POST', '/api/solve', {
      document: await demoDocument(),
      frequencyHz: 8.294e6,
      powerW: 125,
    })
    expect(status).toBe(200)
    const { solution } = body
    expect(solution.planes).toHaveLength(8)
    const lost = solution.stages.reduce((sum: number, s: { lossW: number }) => sum + s.lossW, 0)
    expect(lost + solution.antennaW).toBeCloseTo(solution.transmitterNetW, 9)
    expect(solution.antennaW).toBeCloseTo(81.53, 1)
  })

  test('a script can plan: the front rises in cost and falls in loss, and what is unknown is named', async () => {
    const document = await demoDocument()
    const cables = (document as ChainDocument).stages.flatMap((stage) =>
      stage.kind === 'line' ? [stage.cable] : [],
    )
    const thick = { ...cables[0]!, name: 'thick', k1DbPer100m: 0.5, k2DbPer100m: 0.002 }
    const ask = {
      document,
      sections: [
        {
          stageId: 'duct',
          candidates: [
            { id: 'thick', cable: thick, costPerM: 4 },
            { id: 'dear', cable: thick, costPerM: 5 },
            { id: 'unpriced', cable: thick },
          ],
        },
      ],
      counts: { c12: 1 },
      costPerSection: 10,
    }
    const { status, body } = await h.call('POST', '/api/plan', ask)
    expect(status).toBe(200)
    expect(body.combinations).toBe(3)
    expect(body.unknown).toEqual([{ section: 0, id: 'unpriced' }])
    expect(
      body.front.map(({ cost, cables: [id] }: { cost: number; cables: string[] }) => [id, cost]),
    ).toEqual([
      [null, 0],
      ['thick', 46 * 4 + 10],
    ])
    expect(body.front[1].lossDb).toBeLessThan(body.front[0].lossDb)
    const gone = await h.call('POST', '/api/plan', {
      ...ask,
      sections: [{ stageId: 'nowhere', candidates: [] }],
    })
    expect(gone.status).toBe(422)
    expect(JSON.stringify(gone.body)).toContain('/sections/0/stageId')
    const noChannel = await h.call('POST', '/api/plan', { ...ask, counts: { c99: 1 } })
    expect(noChannel.status).toBe(422)
  })

  test('a tuner tells its setting, an amplifier its drive and the cure', async () => {
    const { document } = (await h.call('GET', '/api/chains/hf-amplifier')).body
    const ask = { document, frequencyHz: 12.353e6, powerW: 40 }
    const { body } = await h.call('POST', '/api/solve', { ...ask, mode: 'data' })
    const [amplifier] = body.solution.stages.flatMap(
      (s: { amplifier?: object }) => s.amplifier ?? [],
    )
    const [tuner] = body.solution.stages.flatMap((s: { tuner?: object }) => s.tuner ?? [])
    expect(amplifier.ceilingW).toBe(300)
    expect(amplifier.overdriven).toBe(true)
    expect(amplifier.cure.turnDownToW).toBeCloseTo(30.4, 0)
    expect(tuner).toMatchObject({ matched: true })
    expect(tuner.elements.map((e: { part: string }) => e.part)).toEqual([
      'capacitor',
      'coil',
      'capacitor',
    ])
    const voice = (await h.call('POST', '/api/solve', { ...ask, mode: 'voice-plain' })).body
    expect(voice.solution.stages[1].amplifier.overdriven).toBe(false)
    const elsewhere = { ...ask, frequencyHz: 12.6e6, tunedHz: 12.353e6 }
    const detuned = (await h.call('POST', '/api/solve', elsewhere)).body
    expect(detuned.solution.planes[4].swr).toBeGreaterThan(1.2)
  })

  test('a gain too small for its drive, and ranges that run backward, are refused by their fields', async () => {
    const { document } = (await h.call('GET', '/api/chains/hf-amplifier')).body
    document.stages[1].gainDb = 5
    document.stages.find((s: { kind: string }) => s.kind === 'tuner').coilH = [2e-6, 1e-6]
    const { status, body } = await h.call('POST', '/api/stations/merrow-point/chains', document)
    expect(status).toBe(422)
    expect(body.errors.map((e: { pointer: string }) => e.pointer)).toEqual(
      expect.arrayContaining(['/stages/1/gainDb', '/stages/4/coilH/1']),
    )
  })

  test('an open line has an infinite SWR, which travels as null', async () => {
    const document = await demoDocument()
    const load = { kind: 'fixed', name: 'short', rOhm: 0, xOhm: 0 }
    const { body } = await h.call('POST', '/api/solve', {
      document: { ...document, load },
      frequencyHz: 8e6,
      powerW: 100,
    })
    expect(body.solution.planes.at(-1).swr).toBeNull()
    expect(body.solution.antennaW).toBe(0)
  })

  test('kilometres of cable at gigahertz, and a radio that gives nothing, solve to figures', async () => {
    const document = await demoDocument()
    const stages = document.stages.filter((s: { kind: string }) => s.kind !== 'tuner')
    const load = { kind: 'fixed', name: 'antenna', rOhm: 67, xOhm: -41 }
    const run = stages.find((s: { id: string }) => s.id === 'duct')
    const long = { ...run, lengthM: 3000, cable: { ...run.cable, k2DbPer100m: 2, maxHz: 6e9 } }
    const deep = await h.call('POST', '/api/solve', {
      document: { ...document, load, stages: stages.map((s: object) => (s === run ? long : s)) },
      frequencyHz: 6e9,
      powerW: 100,
    })
    expect(deep.status).toBe(200)
    // 2 dB per 100 m and MHz at 6 GHz over 3 km: more than any double holds, so nothing arrives.
    expect(deep.body.solution.antennaW).toBe(0)
    expect(deep.body.solution.transmitterNetW).toBeGreaterThan(99)

    const silent = await h.call('POST', '/api/solve', {
      document: {
        ...document,
        stages: [],
        load: { kind: 'swr', name: 'antenna', swr: 15 },
        transmitter: {
          ...document.transmitter,
          foldback: [
            [1.5, 1],
            [10, 0],
          ],
        },
      },
      frequencyHz: 8e6,
      powerW: 100,
    })
    expect(silent.body.solution).toMatchObject({ foldback: 0, transmitterNetW: 0, antennaW: 0 })
  })

  test('a frequency outside the sweep names the range and the field', async () => {
    const { status, type, body } = await h.call('POST', '/api/solve', {
      document: await demoDocument(),
      frequencyHz: 50e6,
      powerW: 125,
    })
    expect(status).toBe(422)
    expect(type).toContain('application/problem+json')
    expect(body.detail).toMatch(/2\.000.MHz to 18\.000.MHz/)
    expect(body.errors[0].pointer).toBe('/load')
  })

  test('an unknown sweep is told by its field', async () => {
    const document = await demoDocument()
    document.load.sweepId = 'nowhere'
    const { status, body } = await h.call('POST', '/api/solve', {
      document,
      frequencyHz: 8e6,
      powerW: 1,
    })
    expect(status).toBe(422)
    expect(body.errors[0].pointer).toBe('/document/load/sweepId')
  })
})

describe('bad bodies', () => {
  test('every field at fault is pointed at, with its limits', async () => {
    const document = await demoDocument()
    document.stages[0].lengthM = -3
    document.stages[1].lossDb = 'much'
    document.channels[0].frequencyHz = 1
    const { status, body } = await h.call('POST', '/api/solve', {
      document,
      frequencyHz: 8e6,
      powerW: 1,
    })
    expect(status).toBe(422)
    expect(body.errors).toEqual([
      { pointer: '/document/stages/0/lengthM', message: 'Length must be between 0 and 5000 m.' },
      { pointer: '/document/stages/1/lossDb', message: 'Loss must be a number in dB.' },
      {
        pointer: '/document/channels/0/frequencyHz',
        message: expect.stringContaining('Frequency'),
      },
    ])
  })

  test.each([
    ['{"document": ', 400, 'not valid JSON'],
    [`{"a": "${'x'.repeat(1_100_000)}"}`, 413, '1024 KiB'],
  ])('%.20s… is answered with %d', async (text, status, words) => {
    const answer = await h.call('POST', '/api/solve', text)
    expect(answer.status).toBe(status)
    expect(answer.body.detail).toContain(words)
    expect(answer.type).toContain('problem+json')
  })

  test('two stages with one id, a shunt of 0 Ω, falling foldback are refused', async () => {
    const document = await demoDocument()
    document.stages[1].id = document.stages[0].id
    document.stages.push({ id: 'z', kind: 'shunt', name: 'short', rOhm: 0, xOhm: 0 })
    document.transmitter.foldback = [
      [2, 1],
      [1.5, 0.5],
    ]
    const { body } = await h.call('POST', '/api/stations/merrow-point/chains', document)
    const pointers = body.errors.map((e: { pointer: string }) => e.pointer)
    expect(pointers).toContain('/stages/7/rOhm')
    expect(pointers).toContain('/transmitter/foldback')
  })

  test('what is not there is a 404 in the same shape', async () => {
    for (const path of [
      '/api/chains/nope',
      '/api/stations/nope',
      '/api/sweeps/nope',
      '/api/nope',
    ]) {
      const { status, body } = await h.call('GET', path)
      expect([status, body.status]).toEqual([404, 404])
    }
  })
})

describe('revisions', () => {
  const lengthOf = (state: { document: { stages: { lengthM: number }[] } }) =>
    state.document.stages[0]!.lengthM
  const save = async (id: string, baseRevision: number, lengthM: number) => {
    const document = await demoDocument()
    document.stages[0].lengthM = lengthM
    return h.call('PUT', `/api/chains/${id}`, { baseRevision, document, summary: `${lengthM} m` })
  }

  test('undo and redo walk the edits; a new edit after undo begins a branch', async () => {
    const { id } = await newChain()
    await save(id, 1, 2)
    await save(id, 2, 3)
    const undone = await h.call('POST', `/api/chains/${id}/undo`, { baseRevision: 3 })
    expect([lengthOf(undone.body), undone.body.canRedo]).toEqual([2, true])
    const redone = await h.call('POST', `/api/chains/${id}/redo`, { baseRevision: 2 })
    expect([lengthOf(redone.body), redone.body.canRedo]).toEqual([3, false])
    await h.call('POST', `/api/chains/${id}/undo`, { baseRevision: 3 })
    const branch = await save(id, 2, 4)
    expect(branch.body).toMatchObject({ revision: 4, canUndo: true, canRedo: false })
    // The edit that was undone is still there.
    const old = await h.call('GET', `/api/chains/${id}/revisions/3`)
    expect(old.body.stages[0].lengthM).toBe(3)
    const list = (await h.call('GET', `/api/chains/${id}/revisions`)).body
    expect(list.map((r: { revision: number; parent: number }) => [r.revision, r.parent])).toEqual([
      [4, 2],
      [3, 2],
      [2, 1],
      [1, null],
    ])
  })

  test('the second writer is refused, told both, and its edit is kept aside', async () => {
    const { id } = await newChain()
    await save(id, 1, 10)
    const second = await save(id, 1, 20)
    expect(second.status).toBe(409)
    expect(lengthOf(second.body.theirs)).toBe(10)
    const kept = await h.call('GET', `/api/chains/${id}/revisions/${second.body.keptAsRevision}`)
    expect(kept.body.stages[0].lengthM).toBe(20)
    const now = await h.call('GET', `/api/chains/${id}`)
    expect([lengthOf(now.body), now.body.canRedo]).toEqual([10, false])
  })

  test('of many writers at once exactly one wins, and all edits are kept', async () => {
    const { id } = await newChain()
    const answers = await Promise.all([11, 12, 13, 14, 15, 16].map((m) => save(id, 1, m)))
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1)
    expect(answers.filter(({ status }) => status === 409)).toHaveLength(5)
    expect((await h.call('GET', `/api/chains/${id}/revisions`)).body).toHaveLength(7)
  })

  test('nothing to undo is said so', async () => {
    const { id } = await newChain()
    const { status, body } = await h.call('POST', `/api/chains/${id}/undo`, { baseRevision: 1 })
    expect([status, body.title]).toEqual([409, 'Nothing to undo'])
  })

  test('a deleted chain is gone and can be taken back', async () => {
    const { id } = await newChain()
    await h.call('DELETE', `/api/chains/${id}`)
    expect((await h.call('GET', `/api/chains/${id}`)).status).toBe(404)
    expect((await h.call('POST', `/api/chains/${id}/restore`)).body.id).toBe(id)
  })
})

describe('stations, gear and antennas', () => {
  test('a station is made, changed, deleted and taken back', async () => {
    const made = await h.call('POST', '/api/stations', { name: 'Tern Sands' })
    expect(made.status).toBe(201)
    const { id } = made.body
    const changed = await h.call('PUT', `/api/stations/${id}`, {
      name: 'Tern Sands',
      swrLimit: 1.7,
    })
    expect(changed.body.swrLimit).toBe(1.7)
    await h.call('DELETE', `/api/stations/${id}`)
    expect((await h.call('GET', `/api/stations/${id}`)).status).toBe(404)
    expect((await h.call('POST', `/api/stations/${id}/restore`)).body.name).toBe('Tern Sands')
  })

  test('gear is kept', async () => {
    const document = {
      name: 'Drum of old coax',
      z0Ohm: 50,
      velocityFactor: 0.66,
      k1DbPer100m: 2,
      k2DbPer100m: 0.01,
    }
    const { body } = await h.call('POST', '/api/stations/merrow-point/gear', {
      kind: 'cable',
      document,
    })
    const changed = { kind: 'cable', document: { ...document, k1DbPer100m: 2.5 } }
    await h.call('PUT', `/api/gear/${body.id}`, changed)
    const gear = () => h.call('GET', '/api/stations/merrow-point').then((r) => r.body.gear)
    expect(await gear()).toContainEqual({ id: body.id, ...changed })
    await h.call('DELETE', `/api/gear/${body.id}`)
    expect(await gear()).not.toContainEqual({ id: body.id, ...changed })
    await h.call('POST', `/api/gear/${body.id}/restore`)
    expect(await gear()).toContainEqual({ id: body.id, ...changed })
  })

  test('a sweep comes back as it was sent, on 50 Ω', async () => {
    const { body } = await h.call('POST', '/api/stations/merrow-point/antennas', {
      name: 'Test load',
      touchstone: '! made up\n# MHz S RI R 75\n1 0 0\n2 0.5 0.25\n',
    })
    const sweep = (await h.call('GET', `/api/sweeps/${body.sweeps[0].id}`)).body
    expect(sweep.frequencyHz).toEqual([1e6, 2e6])
    expect(sweep.re[0]).toBeCloseTo(0.2, 12)
  })

  test('a broken file is refused by its line, and nothing is half-imported', async () => {
    const before = (await h.call('GET', '/api/stations/merrow-point')).body.antennas.length
    const { status, body } = await h.call('POST', '/api/stations/merrow-point/antennas', {
      name: 'Broken',
      touchstone: '# MHz S RI R 50\n1 0 0\noops\n',
    })
    expect(status).toBe(422)
    expect(body.errors).toEqual([
      { pointer: '/touchstone', message: expect.stringContaining('Line 3') },
    ])
    expect((await h.call('GET', '/api/stations/merrow-point')).body.antennas).toHaveLength(before)
  })
})

describe('OpenAPI', () => {
  test('people read it as a page, whose viewer is served from here', async () => {
    const page = await fetch(`${h.base}/api`)
    expect([page.status, page.headers.get('content-type')]).toEqual([
      200,
      'text/html; charset=utf-8',
    ])
    const text = await page.text()
    const wanted = [...text.matchAll(/(?:src|href)="(\/api\/page\/[^"]+)"/g)].map(
      ([, path]) => path!,
    )
    expect(wanted).toHaveLength(4)
    for (const path of wanted) expect((await fetch(h.base + path)).status).toBe(200)
    // Nothing of it comes from elsewhere.
    expect(text).not.toMatch(/(src|href)="https?:/)
  })

  test('is made from the same schemas, and every reference in it resolves', async () => {
    const { body } = await h.call('GET', '/api/openapi.json')
    expect(body.openapi).toBe('3.1.0')
    const solve = body.paths['/api/solve'].post
    expect(solve.requestBody.content['application/json'].schema).toEqual({
      $ref: '#/components/schemas/SolveRequest',
    })
    const references = [...JSON.stringify(body).matchAll(/"\$ref":"([^"]+)"/g)].map(([, r]) => r!)
    expect(references.length).toBeGreaterThan(20)
    for (const reference of new Set(references)) {
      const name = reference.replace('#/components/schemas/', '')
      expect(Object.keys(body.components.schemas)).toContain(name)
    }
  })
})

describe('who may speak', () => {
  const raw = (headers: Record<string, string>, method = 'GET') =>
    new Promise<{ status: number; csp: string }>((done, fail) => {
      http
        .request(`${h.base}/api/stations`, { method, headers }, (res) => {
          res.resume()
          res.on('end', () =>
            done({ status: res.statusCode!, csp: String(res.headers['content-security-policy']) }),
          )
        })
        .on('error', fail)
        .end()
    })

  test('a foreign host name is not answered', async () => {
    expect((await raw({ host: 'rebound.example' })).status).toBe(421)
    expect((await raw({ host: 'localhost:1234' })).status).toBe(200)
  })

  test('a page of another origin changes nothing', async () => {
    const { host } = new URL(h.base)
    expect((await raw({ host, origin: 'http://other.example' }, 'POST')).status).toBe(403)
    expect((await raw({ host, origin: 'null' }, 'POST')).status).toBe(403)
    expect((await raw({ host, origin: `http://${host}` }, 'POST')).status).toBe(422)
  })

  test('scripts come from here alone', async () => {
    const { csp } = await raw({})
    expect(csp).toContain("script-src 'self'")
    expect(csp).toContain("frame-ancestors 'none'")
  })
})

describe('the table of addresses', () => {
  // Without a network nobody signs in: there is only the word that nobody has to.
  const keys = (Object.keys(endpoints) as EndpointKey[]).filter((key) => !/\/access\//.test(key))

  test.each(keys)('%s is answered by the server', async (key) => {
    const [method, path] = key.split(' ') as [string, string]
    const { status, body } = await h.call(
      method,
      `/api${path.replaceAll(/:\w+/g, 'nothing')}`,
      method === 'GET' ? undefined : {},
    )
    // What is asked for is not there, but the address is.
    if (status === 404) expect(body.title).not.toBe('No such address in the API')
    else expect(status).toBeLessThan(500)
  })
})
