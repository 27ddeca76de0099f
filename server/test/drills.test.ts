import { readTouchstone } from '@saltline/core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { sendSweep, serveStandIn, standIn } from '../standIn.ts'
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
  expect(() => standIn(['radio'])).toThrow('there is: meter, analyser')
  expect(() => standIn(['meter', '--fault', 'gremlins'])).toThrow('--fault is one of')
  expect(() => standIn(['meter', '--plane', '99'])).toThrow('--plane must be a whole number')
})

describe('a stand-in analyser', () => {
  const analyser = (...args: string[]) => {
    const played = standIn(['analyser', ...args])
    if (played?.what !== 'analyser') throw new Error('another one was played')
    return played
  }
  const sweepAt = async (args: string[]) => {
    const served = await serveStandIn(analyser('--port', '0', ...args))
    try {
      return readTouchstone(await (await fetch(served.url)).text(), 50)
    } finally {
      served.close()
    }
  }

  test('answers the sweep of a station, the same from the same seed, another with a bad joint', async () => {
    const asked = ['--seed', 'a', '--end', 'open', '--points', '201', '--noise', '0']
    const sound = await sweepAt([...asked, '--fault', 'none'])
    expect(sound.frequencyHz).toHaveLength(201)
    expect(sound.frequencyHz[0]).toBe(10e6)
    const again = await sweepAt([...asked, '--fault', 'none'])
    expect([...again.re]).toEqual([...sound.re])
    const bad = await sweepAt([...asked, '--fault', 'connector'])
    const off = sound.re.reduce((sum, re, k) => sum + Math.abs(re - bad.re[k]!), 0) / 201
    expect(off).toBeGreaterThan(0.01)
  })

  test('sends one to a chain, where it is kept with the log', async () => {
    const chain = `${h.base}/api/chains/hf-long-run/line-sweeps`
    const said = await sendSweep(analyser('--to', chain, '--before', 'desk', '--end', 'load'))
    expect(said).toBe('It is kept.')
    const [newest] = (await h.call('GET', '/api/chains/hf-long-run/line-sweeps')).body
    expect(newest).toMatchObject({
      instrument: 'stand-in analyser',
      farEnd: 'load',
      before: 'desk',
    })
    expect(await sendSweep(analyser('--to', chain, '--before', 'nowhere'))).toContain(
      'Refused, 422',
    )
    await expect(sendSweep(analyser('--to', chain))).rejects.toThrow('--before')
  })

  test.each([
    [['--end', 'sea'], '--end is one of'],
    [['--from', '50', '--until', '20'], '--until must be more'],
    [['--points', '1'], '--points must be a whole number'],
    [['--directivity', 'good'], '--directivity must be a number'],
  ])('%j is refused in words', (args, words) => {
    expect(() => analyser(...args)).toThrow(words)
  })
})
