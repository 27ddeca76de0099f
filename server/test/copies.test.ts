/** Copies that are kept by themselves: when they are due, which stay, and what happens where they cannot be made. */
import { chmodSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest'
import { openDatabase } from '../src/db/open.ts'
import { copiesFolder, keepCopy, listCopies, surplus } from '../src/store/copies.ts'
import { isDue, keepNightly, lastNight } from '../src/work/nightly.ts'
import { type Harness, startHarness } from './harness.ts'

const addHours = (at: Date | number, hours: number): Date =>
  new Date(new Date(at).getTime() + hours * 3_600_000)
const addDays = (at: Date, days: number): Date => addHours(at, 24 * days)

const night = (at: Date, madeMs = at.getTime()) => ({
  name: `n${at.toISOString()}`,
  keptAt: at.toISOString(),
  why: 'nightly' as const,
  madeMs,
})

describe('which copies stay', () => {
  const begin = new Date('2024-01-01T03:00:00Z')

  test('of 800 nights those of seven days, four weeks and twelve months', () => {
    let copies: ReturnType<typeof night>[] = []
    for (let day = 0; day < 800; day++) {
      copies.push(night(addDays(begin, day)))
      const gone = new Set(surplus(copies))
      copies = copies.filter(({ name }) => !gone.has(name))
    }
    const last = addDays(begin, 799).getTime()
    const age = copies.map(({ keptAt }) => Math.round((last - Date.parse(keptAt)) / 86_400_000))
    expect(age.filter((days) => days < 7)).toHaveLength(7)
    expect(copies.length).toBeGreaterThanOrEqual(7 + 2 + 10)
    expect(copies.length).toBeLessThanOrEqual(7 + 4 + 12)
    expect(Math.max(...age)).toBeGreaterThan(300)
    const months = new Set(copies.map(({ keptAt }) => keptAt.slice(0, 7)))
    expect(months.size).toBe(12)
  })

  test('the newest is never let go, whatever the clock said when', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 3000 }), fc.integer({ min: 0, max: 1e6 })), {
          minLength: 1,
          maxLength: 60,
        }),
        (made) => {
          const copies = made.map(([day, ms], i) => ({
            ...night(addDays(begin, day), ms),
            name: String(i),
          }))
          const gone = new Set(surplus(copies))
          const left = copies.filter(({ name }) => !gone.has(name))
          // By date and by when the file was made.
          const newest = copies.reduce((a, b) => (b.keptAt > a.keptAt ? b : a))
          const lastMade = copies.reduce((a, b) => (b.madeMs > a.madeMs ? b : a))
          expect(left.some(({ keptAt }) => keptAt === newest.keptAt)).toBe(true)
          expect(left.some(({ madeMs }) => madeMs === lastMade.madeMs)).toBe(true)
          // Rotating what is left takes nothing more.
          expect(surplus(left)).toEqual([])
        },
      ),
    )
  })
})

describe('when one is due', () => {
  const noon = new Date(2026, 3, 18, 12).getTime()

  test('once a night; the one that was missed at the next start; one of the future counts for none', () => {
    expect(new Date(lastNight(noon)).getHours()).toBe(3)
    expect(isDue([], noon)).toBe(true)
    const of = (hours: number) => [night(addHours(noon, hours))]
    expect(isDue(of(-8), noon)).toBe(false)
    expect(isDue(of(-10), noon)).toBe(true)
    expect(isDue(of(24 * 365), noon)).toBe(true)
  })

  test('a season, with nights off and a clock set back: hardly a night that was on is without one', async () => {
    let now = new Date(2026, 0, 1, 12).getTime()
    const made: number[] = []
    const folder = mkdtempSync(join(tmpdir(), 'saltline-nights-'))
    const main = join(folder, 'db.sqlite')
    mkdirSync(copiesFolder(main))
    const make = () => {
      made.push(now)
      const stamp = new Date(now).toISOString().replace(/[:.]/g, '-')
      writeFileSync(join(copiesFolder(main), `db.${stamp}.nightly.sqlite`), 'x')
      return Promise.resolve({} as never)
    }
    const keeping = keepNightly(main, make, undefined, () => now)
    for (let step = 0; step < 90 * 8; step++) {
      now += 3 * 3_600_000
      // A fortnight off, and once the clock is put back by five days.
      if (step === 200) now += 14 * 86_400_000
      if (step === 500) now -= 5 * 86_400_000
      await keeping.look()
    }
    const days = new Set(made.map((at) => new Date(at).toDateString()))
    expect(days.size).toBeGreaterThanOrEqual(87)
    expect(made.length).toBeLessThan(100)
    expect(keeping.state()).toMatchObject({ overdue: false, problem: null })
    rmSync(folder, { recursive: true })
  })

  test('one that failed is told, tried again after an hour, and overdue after two nights', async () => {
    let now = noon
    let fails = 0
    const told: object[] = []
    const keeping = keepNightly(
      join(tmpdir(), 'nowhere', 'db.sqlite'),
      () => {
        fails++
        return Promise.reject(new Error('no room'))
      },
      (line) => told.push(line),
      () => now,
    )
    await keeping.look()
    await keeping.look()
    expect(fails).toBe(1)
    expect(keeping.state()).toMatchObject({ lastAt: null, overdue: false, problem: 'no room' })
    now += 61 * 60_000
    await keeping.look()
    expect(fails).toBe(2)
    expect(told).toEqual([{ failed: 'no room' }, { failed: 'no room' }])
    expect(keeping.state().overdue).toBe(true)
  })
})

describe('a copy of a database', () => {
  let h: Harness
  beforeAll(async () => {
    h = await startHarness()
  })
  afterAll(() => h.close())
  afterEach(() => rmSync(copiesFolder(h.file), { recursive: true, force: true }))

  test('is listed with what is in it, loaded, and restored; the restore keeps one too', async () => {
    expect((await h.call('GET', '/api/backup/state')).body).toMatchObject({ lastAt: null })
    const { status, body } = await h.call('POST', '/api/backup/kept')
    expect(status).toBe(200)
    expect(body).toMatchObject({ why: 'asked' })
    expect(body.holds.stations[0]).toMatchObject({ name: 'Merrow Point', chains: 4 })
    const listed = (await h.call('GET', '/api/backup/kept')).body
    expect(listed).toEqual([body])
    const loaded = await fetch(`${h.base}/api/backup/kept/${body.name}`)
    const bytes = Buffer.from(await loaded.arrayBuffer())
    expect(bytes.subarray(0, 15).toString()).toBe('SQLite format 3')
    expect(bytes).toHaveLength(body.bytes)
    await h.call('DELETE', '/api/chains/vhf-mast')
    const back = await h.call('POST', `/api/backup/kept/${body.name}/restore`)
    expect(back.status).toBe(200)
    expect((await h.call('GET', '/api/chains/vhf-mast')).status).toBe(200)
    const after = (await h.call('GET', '/api/backup/kept')).body as { why: string }[]
    expect(after.map(({ why }) => why).sort()).toEqual(['asked', 'restore'])
    expect((await h.call('GET', '/api/backup/kept/..%2Ftest.sqlite')).status).toBe(404)
  })

  test('is refused where it is not what was there: nothing older goes, and nothing of it stays', async () => {
    const db = await openDatabase(h.file, { create: false })
    const first = await keepCopy(db, 'nightly')
    const count = db.$count.bind(db)
    // One row more than the copy can have.
    Object.assign(db, { $count: async (table: never) => (await count(table)) + 1 })
    await expect(keepCopy(db, 'nightly')).rejects.toThrow(/rows in .*, the database/)
    expect(listCopies(h.file).map(({ name }) => name)).toEqual([first.name])
    expect(readdirSync(copiesFolder(h.file))).toHaveLength(2)
    db.close()
  })

  test.runIf(process.getuid?.() !== 0)('where nothing may be written it says so', async () => {
    mkdirSync(copiesFolder(h.file))
    chmodSync(copiesFolder(h.file), 0o500)
    const { status } = await h.call('POST', '/api/backup/kept')
    expect(status).toBeGreaterThanOrEqual(500)
    chmodSync(copiesFolder(h.file), 0o700)
  })

  test('whoever watches over the computer is told how it stands, and nothing of what is kept', async () => {
    const { status, body } = await h.call('GET', '/api/health')
    expect(status).toBe(200)
    expect(Object.keys(body).sort()).toEqual(['backup', 'database', 'ready', 'version'])
    expect(body).toMatchObject({ ready: true, database: 'sound' })
    expect(JSON.stringify(body)).not.toMatch(/Merrow|sqlite|\//)
  })
})
