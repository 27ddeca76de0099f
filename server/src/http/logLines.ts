/** What the server says of its work, on standard error: for people, or a line of JSON for each event. */
import { type Logger, pino } from 'pino'

export const logFormats = ['text', 'json'] as const
export type LogFormat = (typeof logFormats)[number]

interface Line {
  level: number
  time: number
  msg?: string
  req?: { method: string; url: string }
  res?: { statusCode: number }
  responseTime?: number
  err?: { stack?: string; message?: string }
  [other: string]: unknown
}

const levelOf = (level: number): string => (level >= 50 ? 'error ' : level >= 40 ? 'warning ' : '')

/** A line of JSON as a person reads it. */
export function asText(json: string): string {
  const {
    level,
    time,
    msg,
    req,
    res,
    responseTime,
    err,
    pid: _,
    hostname: _host,
    ...rest
  } = JSON.parse(json) as Line
  const at = new Date(time).toISOString().replace('T', ' ').slice(0, 19)
  const request =
    req && `${req.method} ${req.url} ${res?.statusCode ?? ''} ${responseTime ?? '?'} ms`
  const others = Object.entries(rest).map(([key, value]) => `${key}=${JSON.stringify(value)}`)
  const said = [request ?? msg ?? '', ...others].join(' ')
  const cause = err ? `\n  ${(err.stack ?? err.message ?? '').replaceAll('\n', '\n  ')}` : ''
  return `${at}Z ${levelOf(level)}${said}${cause}\n`
}

/** @param quiet warnings and errors only */
export function loggerOf(format: LogFormat, quiet: boolean): Logger {
  const level = quiet ? 'warn' : 'info'
  if (format === 'json') return pino({ level }, pino.destination(2))
  return pino({ level }, { write: (json: string) => void process.stderr.write(asText(json)) })
}
