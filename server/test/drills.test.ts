import { afterAll, beforeAll, expect, test } from 'vitest'
import { serveStandIn, standIn } from '../standIn.ts'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => (h = await startHarness()))
afterAll(() => h.close())

const path = '/api/stations/merrow-point/attempts'
const attempt = {
  by: 'second watch',
  family: 'find',
  drill: 'connector',
  level: 2,
  seed: 'gull-417',
  points: 85,
  right: true,
  readings: 4,
  keyDownS: 31.5,
}

test('an attempt is kept once, however often it is sent', async () => {
  const first = await h.call('PUT', `${path}/try-1`, attempt)
  expect(first).toMatchObject({ status: 200, body: { ...attempt, id: 'try-1' } })
  const again = await h.call('PUT', `${path}/try-1`, { ...attempt, points: 100 })
  expect(again.body).toEqual(first.body)
  const { body } = await h.call('GET', path)
  expect(body.filter(({ id }: { id: string }) => id === 'try-1')).toEqual([first.body])
})

test('what is no attempt is named and not kept', async () => {
  const { status, body } = await h.call('PUT', `${path}/try-2`, { ...attempt, points: 101 })
  expect(status).toBe(422)
  expect(body.errors[0].pointer).toBe('/points')
  expect((await h.call('PUT', '/api/stations/nowhere/attempts/try-3', attempt)).status).toBe(404)
  expect((await h.call('GET', path)).body.map(({ id }: { id: string }) => id)).not.toContain(
    'try-2',
  )
})

test('an identity is of one station alone', async () => {
  const made = await h.call('POST', '/api/stations', { name: 'Another post' })
  await h.call('PUT', `${path}/shared`, attempt)
  const other = await h.call('PUT', `/api/stations/${made.body.id}/attempts/shared`, attempt)
  expect(other.status).toBe(404)
})

test('a stand-in reads a faulty station over HTTP, the same from the same seed', async () => {
  const read = async (args: string[]) => {
    const served = await serveStandIn(standIn(['meter', '--port', '0', ...args])!)
    try {
      const answer = await fetch(served.url)
      expect((await fetch(`${served.url}else`)).status).toBe(404)
      return (await answer.json()) as { place: string; forwardW: number; reflectedW: number }
    } finally {
      served.close()
    }
  }
  const sound = await read(['--fault', 'none', '--seed', 'a'])
  const reduced = await read(['--fault', 'reduced', '--seed', 'a'])
  const again = await read(['--fault', 'reduced', '--seed', 'a'])
  expect(reduced.place).toBe('at the radio')
  expect(reduced.forwardW).toBeLessThan(0.75 * sound.forwardW)
  expect({ ...again, at: 0 }).toEqual({ ...reduced, at: 0 })
})

test('a stand-in says what it cannot do', () => {
  expect(standIn([])).toBeNull()
  expect(() => standIn(['radio'])).toThrow('there is: meter')
  expect(() => standIn(['meter', '--fault', 'gremlins'])).toThrow('--fault is one of')
  expect(() => standIn(['meter', '--plane', '99'])).toThrow('--plane must be a whole number')
})
