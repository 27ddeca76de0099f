import { expect, test } from 'vitest'
import { asText } from '../src/http/logLines.ts'

const line = (fields: object) =>
  asText(JSON.stringify({ time: Date.UTC(2026, 3, 18, 9, 30), pid: 7, hostname: 'x', ...fields }))

test('a request is one line: when, what, how it ended, how long it took', () => {
  expect(
    line({
      level: 30,
      req: { method: 'GET', url: '/api/stations' },
      res: { statusCode: 200 },
      responseTime: 12,
      msg: 'request completed',
    }),
  ).toBe('2026-04-18 09:30:00Z GET /api/stations 200 12 ms\n')
})

test('a warning says so, with what belongs to it; an error has its cause on lines of its own', () => {
  expect(line({ level: 40, msg: 'access', device: 'phone' })).toBe(
    '2026-04-18 09:30:00Z warning access device="phone"\n',
  )
  expect(line({ level: 50, msg: 'it broke', err: { stack: 'Error: x\n at y' } })).toBe(
    '2026-04-18 09:30:00Z error it broke\n  Error: x\n   at y\n',
  )
})
