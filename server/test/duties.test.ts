import ICAL from 'ical.js'
import {
  dutySchema,
  newId,
  offeredDutySchema,
  type Duty,
  type OfferedDuty,
} from '@saltline/contract'
import ical from 'node-ical'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { calendarText } from '../src/duties/calendar.ts'
import { listDuties } from '../src/duties/list.ts'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

const station = '/api/stations/merrow-point'
const plain = {
  title: 'Sealing at the mast head',
  chainId: 'vhf-mast',
  task: { kind: 'plain' },
  months: 6,
  from: '2026-01-15',
}
const add = async (body: object): Promise<string> => {
  const made = await h.call('POST', `${station}/duties`, body)
  expect(made.status, JSON.stringify(made.body)).toBe(201)
  return made.body.id
}
const all = async (zone = 'UTC'): Promise<Duty[]> => {
  const { status, body } = await h.call('GET', `${station}/duties?zone=${zone}`)
  expect(status).toBe(200)
  return dutySchema.array().parse(body)
}
const one = async (id: string): Promise<Duty> => (await all()).find((duty) => duty.id === id)!
const offers = async (): Promise<OfferedDuty[]> =>
  offeredDutySchema.array().parse((await h.call('GET', `${station}/duties/offered`)).body)
const mark = (id: string, body: object, markId = newId()) =>
  h.call('PUT', `/api/duties/${id}/marks/${markId}`, body)
const today = () => new Date().toISOString().slice(0, 10)

test('a mark that is sent again changes nothing, and never marks another duty', async () => {
  const id = await add(plain)
  const markId = newId()
  await mark(id, { kind: 'done', on: '2026-02-28' }, markId)
  const again = await mark(id, { kind: 'done', on: '2026-03-30' }, markId)
  expect(again.status).toBe(200)
  expect((await one(id)).marks.map(({ on }) => on)).toEqual(['2026-02-28'])
  const other = await add({ ...plain, title: 'Another one' })
  expect((await mark(other, { kind: 'done', on: '2026-02-28' }, markId)).status).toBe(404)
  expect((await one(other)).marks).toEqual([])
  const gone = await mark('no-such-duty', { kind: 'done', on: '2026-02-28' })
  expect(gone.status).toBe(404)
})

test('where nothing moved for years a longer interval is offered; where it did, none', async () => {
  const { body: chain } = await h.call('GET', '/api/chains/hf-amplifier')
  const channel = chain.document.channels.find(({ id }: { id: string }) => id === 'c8')
  const behind = chain.document.stages.findIndex(({ id }: { id: string }) => id === 'duct') + 1
  const places = ['duct', chain.document.stages[behind].id]
  const record = (farW: (quarter: number) => number) => ({
    readings: Array.from({ length: 26 }, (_, quarter) =>
      places.map((before, k) => ({
        ...{ before, channelId: 'c8', mode: 'CW', powerW: channel.powerW },
        ...{ frequencyHz: channel.frequencyHz, reflectedW: 1 },
        forwardW: k === 0 ? 300 : farW(quarter),
        readAt: new Date(Date.UTC(2020, 3 * quarter, 5, 10, k)).toISOString(),
      })),
    ).flat(),
  })
  const id = await add({
    ...{ title: 'Readings of the amplifier', chainId: 'hf-amplifier', months: 12 },
    ...{ task: { kind: 'reading', channelId: 'c8' }, from: '2026-01-01' },
  })
  const many = '/api/chains/hf-amplifier/readings/many'
  const kept = await h.call(
    'POST',
    many,
    record((quarter) => 240 + (quarter % 2)),
  )
  expect(kept.status, JSON.stringify(kept.body)).toBe(201)
  expect(await one(id)).toMatchObject({ stretchTo: 24, because: null })
  await h.call('POST', '/api/chains/hf-amplifier/readings/delete', { ids: kept.body.ids })
  await h.call(
    'POST',
    many,
    record((quarter) => 240 - 4 * quarter),
  )
  expect((await one(id)).stretchTo).toBeNull()
})

describe('a duty for a thing', () => {
  const bench = {
    title: 'Loss of the duct run',
    thingId: 'thing-l2',
    task: { kind: 'bench', worksheet: 'substitution' },
    ...{ months: 24, from: '2026-01-15' },
  }
  const measured = (chainId: string, stageId: string) =>
    h.call('POST', `${station}/measurements`, {
      ...{ kind: 'substitution', title: 'duct', chainId, stageId, inputs: {}, result: null },
    })

  test('is done by a bench sheet about it, in whichever chain, and by no other', async () => {
    const id = await add(bench)
    expect(await one(id)).toMatchObject({ thing: 'L2 Duct run', due: '2026-01-15', last: null })
    await measured('hf-amplifier', 'patch')
    expect((await one(id)).last).toBeNull()
    await measured('hf-amplifier', 'duct')
    expect((await one(id)).last).toEqual({ on: today(), how: 'bench sheet' })
  })

  test('belongs to a thing or a chain, not both; waits in the bin with its thing', async () => {
    const both = await h.call('POST', `${station}/duties`, { ...bench, chainId: 'hf-long-run' })
    expect(both.status).toBe(422)
    expect(both.body.errors[0].pointer).toBe('/thingId')
    const reading = { ...bench, task: { kind: 'reading' } }
    expect((await h.call('POST', `${station}/duties`, reading)).status).toBe(422)
    const id = await add({ ...bench, thingId: 'thing-p1', task: { kind: 'plain' } })
    await h.call('DELETE', '/api/things/thing-p1')
    expect(await one(id)).toBeUndefined()
    await h.call('POST', '/api/things/thing-p1/restore')
    expect(await one(id)).toMatchObject({ thing: 'P1 Arrester' })
  })
})

describe('a duty of plain words', () => {
  test('is due on its first day, then so many months after it was ticked, and again when that is taken back', async () => {
    const id = await add(plain)
    expect(await one(id)).toMatchObject({ due: '2026-01-15', last: null, chain: 'VHF mast' })
    const ticked = await mark(id, { kind: 'done', on: '2026-02-28' })
    expect(ticked.status).toBe(200)
    expect(await one(id)).toMatchObject({
      due: '2026-08-28',
      last: { on: '2026-02-28', how: 'ticked' },
    })
    await h.call('DELETE', `/api/duties/${id}/marks/${ticked.body.id}`)
    expect(await one(id)).toMatchObject({ due: '2026-01-15', last: null })
  })

  test('is put off with a reason that stays on record', async () => {
    const id = await add(plain)
    const without = await mark(id, { kind: 'put off', on: '2027-05-01' })
    expect(without.status).toBe(422)
    expect(without.body.errors[0]).toMatchObject({ pointer: '/reason' })
    await mark(id, { kind: 'put off', on: '2027-05-01', reason: 'ice on the mast' })
    expect(await one(id)).toMatchObject({ due: '2027-05-01', because: 'put off: ice on the mast' })
    await mark(id, { kind: 'done', on: today() })
    const done = await one(id)
    expect(done.last?.on).toBe(today())
    expect(done.marks.map(({ kind }) => kind)).toEqual(['done', 'put off'])
  })

  test('is not done tomorrow, and not by a day that there is not', async () => {
    const id = await add(plain)
    const ahead = await mark(id, { kind: 'done', on: '2099-01-01' })
    expect(ahead.status).toBe(422)
    expect(ahead.body.detail).toContain('2099-01-01 lies ahead')
    expect((await mark(id, { kind: 'done', on: '2026-02-30' })).status).toBe(422)
    expect((await mark('nobody', { kind: 'done', on: '2026-02-03' })).status).toBe(404)
  })

  test('goes into the bin and comes back; emptied, what was said of it goes too', async () => {
    const id = await add({ ...plain, title: 'To the bin' })
    await mark(id, { kind: 'done', on: '2026-02-03' })
    await h.call('DELETE', `/api/duties/${id}`)
    expect(await one(id)).toBeUndefined()
    const bin = (await h.call('GET', `${station}/bin`)).body
    expect(bin).toContainEqual(expect.objectContaining({ kind: 'duty', name: 'To the bin' }))
    await h.call('POST', `/api/duties/${id}/restore`)
    expect((await one(id)).last?.on).toBe('2026-02-03')
    await h.call('DELETE', `/api/duties/${id}`)
    await h.call('DELETE', `${station}/bin`)
    expect((await h.call('POST', `/api/duties/${id}/restore`)).status).toBe(404)
    expect(await listDuties(h.db, 'merrow-point', { zone: 'UTC' })).not.toContainEqual(
      expect.objectContaining({ id }),
    )
  })

  test.each([
    [{ months: null }, '/months', 'Say how often'],
    [{ months: 0 }, '/months', ''],
    [{ chainId: null, task: { kind: 'reading' } }, '/chainId', 'say which'],
    [{ chainId: null, afterEvent: 'storm' }, '/chainId', 'say which'],
    [{ from: 'soon' }, '/from', 'year-month-day'],
    [{ title: '' }, '/title', ''],
  ])('%j is refused at its place', async (wrong, pointer, message) => {
    const { status, body } = await h.call('POST', `${station}/duties`, { ...plain, ...wrong })
    expect(status).toBe(422)
    expect(body.errors.map((e: { pointer: string }) => e.pointer)).toContain(pointer)
    expect(JSON.stringify(body.errors)).toContain(message)
  })
})

describe('what the record says', () => {
  test('a reading counts by itself', async () => {
    const id = await add({
      ...{ title: 'Read it', chainId: 'mf-hf-whip', from: '2024-01-01', months: 12 },
      task: { kind: 'reading', channelId: 'c2' },
    })
    // Nothing was ever read on that channel.
    expect(await one(id)).toMatchObject({ due: '2024-01-01', last: null })
    await h.call('POST', '/api/chains/mf-hf-whip/readings', {
      ...{ channelId: 'c2', frequencyHz: 2.065e6, mode: 'FM', powerW: 100, before: 'wall' },
      ...{ forwardW: 97, reflectedW: 0.4, readAt: '2026-03-31T11:00:00.000Z' },
    })
    expect(await one(id)).toMatchObject({
      last: { on: '2026-03-31', how: 'reading' },
      due: '2027-03-31',
    })
  })

  test('a bench sheet of its kind counts', async () => {
    const meters = (await all()).find(({ title }) => title === 'Meter Skua against Heron')!
    expect(meters).toMatchObject({ due: '2026-09-01', last: null, chain: null })
    const kept = { title: 't', inputs: {}, result: null, note: '' }
    await h.call('POST', `${station}/measurements`, { ...kept, kind: 'probe' })
    expect((await one(meters.id)).last).toBeNull()
    await h.call('POST', `${station}/measurements`, { ...kept, kind: 'two-meters' })
    expect((await one(meters.id)).last).toEqual({ on: today(), how: 'bench sheet' })
  })

  test('a run sheet counts when it was done to its end, and not before', async () => {
    const id = await add({
      ...{ title: 'Run it', chainId: 'hf-long-run', months: 12, from: '2026-01-01' },
      task: { kind: 'sheet', sheetId: 'before-keying' },
    })
    const run = (outcome: string) => ({
      ...{ sheetId: 'before-keying', sheetVersion: 1, title: 'Before keying', channelId: 'c8' },
      ...{ frequencyHz: 8.294e6, next: 1, entries: [], outcome },
      steps: [{ id: 'rules', channelId: 'c8', kind: 'caution', title: 'Local rules first' }],
    })
    const put = (baseRevision: number, outcome: string) =>
      h.call('PUT', '/api/chains/hf-long-run/runs/run-of-duty', {
        baseRevision,
        run: run(outcome),
      })
    expect((await put(0, 'running')).status).toBe(200)
    expect((await one(id)).last).toBeNull()
    expect((await put(1, 'done')).status).toBe(200)
    expect((await one(id)).last).toEqual({ on: today(), how: 'run sheet' })
  })

  test('a storm that was noted asks for it, and no other event does', async () => {
    const storm = (await all()).find(({ title }) => title === 'Look after a storm')!
    // The storm of 14 January 2026 was never looked after.
    expect(storm).toMatchObject({ due: '2026-01-14', because: 'Storm, mast head under spray' })
    await mark(storm.id, { kind: 'done', on: '2026-01-16' })
    expect((await one(storm.id)).due).toBeNull()
    await h.call('POST', '/api/events', { chainId: 'vhf-mast', on: '2026-02-01', text: 'Painted' })
    expect((await one(storm.id)).due).toBeNull()
    await h.call('POST', '/api/events', {
      ...{ chainId: 'vhf-mast', on: '2026-02-09', text: 'Another STORM' },
    })
    expect((await one(storm.id)).due).toBe('2026-02-09')
  })

  test('a loss that grows asks for the next reading sooner, and says why', async () => {
    const mast = (await all()).find(({ title }) => title === 'Readings of the mast run')!
    const last = mast.last!.on
    expect(mast.due! > last).toBe(true)
    const later = new Date(`${last}T12:00:00Z`)
    later.setUTCFullYear(later.getUTCFullYear() + 1)
    expect(mast.due! < later.toISOString().slice(0, 10)).toBe(true)
    expect(mast.because).toMatch(/^the loss of Mast run/)
    expect(mast.because).toMatch(/grew 0\.4\sdB since January, 0\.2\sdB a year: 0\.5\sdB by then/)
  })
})

describe('what ships', () => {
  test('is offered where it fits, until it is taken or declined', async () => {
    const before = await offers()
    const names = before.map(({ shipped }) => shipped)
    expect(names).toContain('backup')
    expect(names).toContain('yearly hf-long-run')
    expect(names).toContain('arrester vhf-mast')
    // The whip has no hand tuner, and the demo has taken these.
    expect(names).not.toContain('tuner mf-hf-whip')
    expect(names).not.toContain('arrester hf-long-run')
    expect(names).not.toContain('two-meters')
    const {
      last: _,
      chain: _chain,
      ...asked
    } = before.find(({ shipped }) => shipped === 'yearly hf-long-run')!
    const id = await add(asked)
    expect((await one(id)).due).toBe(today())
    await h.call('POST', `${station}/duties/declined`, { shipped: 'backup' })
    const left = (await offers()).map(({ shipped }) => shipped)
    expect(left).not.toContain('yearly hf-long-run')
    expect(left).not.toContain('backup')
    // Declined it is no duty; deleted for good it is not offered again.
    expect((await all()).map(({ shipped }) => shipped)).not.toContain('backup')
    await h.call('DELETE', `/api/duties/${id}`)
    await h.call('DELETE', `${station}/bin`)
    expect((await offers()).map(({ shipped }) => shipped)).not.toContain('yearly hf-long-run')
  })
})

describe('the calendar', () => {
  const read = async () => {
    const { status, type, body } = await h.call('GET', `${station}/calendar.ics?zone=Europe/Lisbon`)
    expect([status, type]).toEqual([200, 'text/calendar; charset=utf-8'])
    return body as string
  }
  const eventsOf = (text: string) =>
    new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent').map((c) => new ICAL.Event(c))

  test('has every duty with a day once, and two readers find the same in it', async () => {
    const text = await read()
    const due = (await all('Europe/Lisbon')).filter((duty) => duty.due !== null)
    const events = eventsOf(text)
    expect(events).toHaveLength(due.length)
    expect(new Set(events.map(({ uid }) => uid)).size).toBe(due.length)
    const other = Object.values(ical.sync.parseICS(text)).filter((each) => each?.type === 'VEVENT')
    expect(other).toHaveLength(due.length)
    for (const duty of due) {
      const mine = events.find(({ uid }) => uid.startsWith(duty.id))!
      const day = duty.due! < today() ? today() : duty.due!
      expect([mine.startDate.toString(), mine.startDate.isDate]).toEqual([day, true])
      expect(mine.summary).toContain(duty.title)
      const theirs = other.find((each) => 'uid' in each! && each.uid === mine.uid) as {
        start: Date
        datetype: string
      }
      expect(theirs.datetype).toBe('date')
      expect(
        [theirs.start.getFullYear(), theirs.start.getMonth() + 1, theirs.start.getDate()].map(
          String,
        ),
      ).toEqual(day.split('-').map((part) => String(Number(part))))
    }
    // RFC 5545, 3.1: lines of at most 75 octets, ended by CR and LF.
    for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
    expect(text.replaceAll('\r\n', '')).not.toContain('\n')
  })

  test('keeps an event’s identity when the duty moves', async () => {
    const id = await add({
      ...plain,
      title: 'Moves; a, comma \\ and\u00a0more words than fit into one line of a calendar file',
    })
    const before = eventsOf(await read()).find(({ uid }) => uid.startsWith(id))!
    expect(before.summary).toContain('Moves; a, comma \\ and')
    expect(before.startDate.toString()).toBe(today())
    expect(before.summary).toMatch(/^Overdue: /)
    await mark(id, { kind: 'put off', on: '2031-02-28', reason: 'next mast climb' })
    const after = eventsOf(await read()).find(({ uid }) => uid === before.uid)!
    expect(after.startDate.toString()).toBe('2031-02-28')
    expect(after.description).toContain('next mast climb')
  })

  test('refuses a zone that there is not', async () => {
    const { status } = await h.call('GET', `${station}/calendar.ics?zone=Moon/Base`)
    expect(status).toBe(422)
    expect((await h.call('GET', `${station}/duties?zone=Moon/Base`)).status).toBe(422)
  })

  test('of nothing is a calendar all the same', () => {
    const text = calendarText({ id: 's', name: 'S' }, [], {
      ...{ today: '2026-01-01', now: new Date(0), page: 'http://127.0.0.1/station/s/due' },
    })
    expect(eventsOf(text)).toEqual([])
  })
})

test('a station file takes duties and marks along', async () => {
  const file = (await h.call('GET', `${station}/file`)).body
  expect(file.duties.length).toBeGreaterThan(3)
  const made = (await h.call('POST', '/api/station-files', file)).body
  const there: Duty[] = (await h.call('GET', `/api/stations/${made.id}/duties`)).body
  const told = (duties: Duty[]) =>
    duties.map(({ title, due, last, chain }) => JSON.stringify([title, due, last, chain])).sort()
  expect(told(there)).toEqual(told(await all()))
  // What it took is not offered there either.
  const again: OfferedDuty[] = (await h.call('GET', `/api/stations/${made.id}/duties/offered`)).body
  expect(
    again.some(
      ({ shipped }) =>
        shipped.startsWith('after-storm') &&
        shipped.endsWith(there.find((d) => d.title === 'Look after a storm')!.chainId!),
    ),
  ).toBe(false)
  const wrong = structuredClone(file)
  wrong.duties[0].chainId = 'no-such-chain'
  const refused = await h.call('POST', '/api/station-files', wrong)
  expect(refused.status).toBe(422)
  expect(JSON.stringify(refused.body)).toContain('no-such-chain')
})
