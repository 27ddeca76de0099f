/**
 * What access rests on, in a database file of its own beside the station's: a backup of the station then carries no hash,
 * no session and no token. Everything is held in memory and checked there; the file follows. Nobody is kept waiting, or
 * out, by a file that cannot be written: what ends somebody's access holds at once and is written when it can be.
 */
import { chmodSync, existsSync } from 'node:fs'
import { createHash, randomBytes } from 'node:crypto'
import type { InStatement } from '@libsql/client/sqlite3'
import {
  type AccessEvent,
  type Device,
  isOfOneChain,
  newId,
  type Scope,
  type Token,
  type TokenBody,
} from '@saltline/contract'
import { connect, patiently } from '../db/connection.ts'
import type { Kept } from './passphrase.ts'
import type { Allowed } from './scopes.ts'

const DAY_MS = 86_400_000
/** How long a device stays signed in, and how long without being used, days. */
const SESSION_DAYS = 30
const IDLE_DAYS = 14
/** Sessions, tokens and events that are kept. */
const MOST_SESSIONS = 200
const MOST_TOKENS = 50
const MOST_EVENTS = 100
/** When somebody was last there is written down this often, ms. */
const SEEN_EVERY_MS = 60_000
/** What could not be written is tried again so often, ms. */
const AGAIN_MS = 5000

const TABLES = [
  `create table if not exists passphrase (id integer primary key check (id = 1), salt blob not null, hash blob not null)`,
  `create table if not exists sessions (hash blob primary key, created_at text not null, expires_at text not null)`,
  `create table if not exists tokens (id text primary key, name text not null, scope text not null, hash blob not null unique,
     created_at text not null, used_at text)`,
  `create table if not exists events (at text not null, event text not null, address text not null)`,
]

/** Columns that came later. */
const COLUMNS = [
  ['sessions', 'id', `text not null default ''`],
  ['sessions', 'name', `text not null default ''`],
  ['sessions', 'address', `text not null default ''`],
  ['sessions', 'seen_at', `text not null default ''`],
  ['tokens', 'chain_id', 'text'],
] as const

/** The file beside a station's database. */
export const accessFileOf = (file: string): string => file.replace(/(\.sqlite)?$/, '-access.sqlite')

const hashOf = (secret: string): Buffer => createHash('sha256').update(secret).digest()
const keyOf = (secret: string): string => hashOf(secret).toString('hex')
const newSecret = (): string => randomBytes(32).toString('base64url')
const bytes = (value: unknown): Buffer => Buffer.from(value as ArrayBuffer)

interface Session {
  id: string
  name: string
  address: string
  createdAt: string
  expiresAt: string
  seenAt: string
  /** When it was last written down that it was seen, ms. */
  writtenAt: number
}

type KeptToken = Token & { writtenAt: number }

/** Who was let in, and a way to hear that it ended. */
export interface Holder {
  /** What is counted by: a device, a token. */
  id: string
  allowed: Allowed | null
}

export type AccessStore = Awaited<ReturnType<typeof openAccess>>

/** @param clock ms since 1970 */
export async function openAccess(file: string, clock: () => number = Date.now) {
  const fresh = !existsSync(file)
  const db = connect(file)
  const run = (...statements: InStatement[]) =>
    patiently(
      () => db.batch(statements, 'write'),
      () => void db.reconnect(),
    )
  const rowsOf = async (sql: string) =>
    (
      await patiently(
        () => db.execute(sql),
        () => void db.reconnect(),
      )
    ).rows
  await patiently(
    () => db.execute('PRAGMA journal_mode = WAL'),
    () => void db.reconnect(),
  )
  await run(...TABLES)
  for (const [table, column, type] of COLUMNS) {
    const there = await rowsOf(`pragma table_info(${table})`)
    if (!there.some(({ name }) => name === column))
      await run(`alter table ${table} add column ${column} ${type}`)
  }
  // The scopes of the first version.
  await run(`update tokens set scope = 'own' where scope = 'everything'`)
  // For the one who runs the server alone.
  if (fresh) chmodSync(file, 0o600)

  const iso = (ms = clock()) => new Date(ms).toISOString()
  const sessions = new Map<string, Session>()
  const tokens = new Map<string, KeptToken>()
  const events: AccessEvent[] = []
  let kept: Kept | null = null
  const ended = new Map<string, Set<() => void>>()

  for (const row of await rowsOf('select salt, hash from passphrase'))
    kept = { salt: bytes(row['salt']), hash: bytes(row['hash']) }
  for (const row of await rowsOf('select * from sessions order by created_at')) {
    const text = (name: string) => String(row[name])
    sessions.set(bytes(row['hash']).toString('hex'), {
      id: text('id') || newId(),
      name: text('name') || 'a device',
      address: text('address'),
      createdAt: text('created_at'),
      expiresAt: text('expires_at'),
      seenAt: text('seen_at') || text('created_at'),
      writtenAt: 0,
    })
  }
  for (const row of await rowsOf('select * from tokens order by created_at'))
    tokens.set(bytes(row['hash']).toString('hex'), {
      id: String(row['id']),
      name: String(row['name']),
      scope: row['scope'] as Scope,
      ...(row['chain_id'] != null && { chainId: String(row['chain_id']) }),
      createdAt: String(row['created_at']),
      usedAt: row['used_at'] === null ? null : String(row['used_at']),
      writtenAt: 0,
    })
  for (const row of await rowsOf(`select * from events order by at desc limit ${MOST_EVENTS}`))
    events.push({
      at: String(row['at']),
      event: String(row['event']),
      address: String(row['address']),
    })

  /** What is still to be written, in its order. */
  const waiting: InStatement[][] = []
  let writing: Promise<void> | null = null
  let again: NodeJS.Timeout | undefined
  const writeWaiting = async () => {
    while (waiting[0]) {
      try {
        await run(...waiting[0])
        waiting.shift()
      } catch {
        again = setTimeout(() => void settle(), AGAIN_MS)
        again.unref()
        return
      }
    }
  }
  const settle = (): Promise<void> => {
    clearTimeout(again)
    writing ??= writeWaiting().finally(() => (writing = null))
    return writing
  }
  /** Written as soon as it can be; nobody waits for it. */
  const later = (...statements: InStatement[]) => {
    waiting.push(statements)
    void settle()
  }
  /** Let go where there is much to write already: it is only when somebody was last there. */
  const ifEasy = (statement: InStatement) => {
    if (waiting.length < 20) later(statement)
  }
  const tellEnd = (id: string) => {
    for (const hear of ended.get(id) ?? []) hear()
  }
  const endSession = (key: string): InStatement => {
    const session = sessions.get(key)
    sessions.delete(key)
    if (session) tellEnd(session.id)
    return { sql: 'delete from sessions where hash = ?', args: [Buffer.from(key, 'hex')] }
  }
  const endAllTokens = (): InStatement[] => {
    const ids = [...tokens.values()].map(({ id }) => id)
    tokens.clear()
    ids.forEach(tellEnd)
    return ['delete from tokens']
  }
  const endAllSessions = (but?: string): InStatement[] =>
    [...sessions.keys()].filter((key) => key !== but).map(endSession)
  const isOver = ({ expiresAt, seenAt }: Session) =>
    Date.parse(expiresAt) <= clock() || Date.parse(seenAt) + IDLE_DAYS * DAY_MS <= clock()
  /** The session of a cookie, if it holds. */
  const sessionOf = (secret: string): Session | null => {
    const key = keyOf(secret)
    const session = sessions.get(key)
    if (!session) return null
    if (!isOver(session)) return session
    later(endSession(key))
    return null
  }

  return {
    close: () => {
      clearTimeout(again)
      db.close()
    },

    /** Waits until all is written that can be. */
    settle,

    passphrase: (): Kept | null => kept,

    /**
     * Another passphrase: every device has to sign in anew, but for the one that asks.
     *
     * @throws what kept it from being written; nothing has changed then
     */
    async setPassphrase(
      next: Kept,
      { but, tokens: tokensToo = false }: { but?: string; tokens?: boolean } = {},
    ): Promise<void> {
      await run({
        sql: `insert into passphrase values (1, ?, ?) on conflict (id) do update set salt = excluded.salt, hash = excluded.hash`,
        args: [next.salt, next.hash],
      })
      kept = next
      const ends = [
        ...endAllSessions(but === undefined ? undefined : keyOf(but)),
        ...(tokensToo ? endAllTokens() : []),
      ]
      if (ends.length > 0) later(...ends)
    },

    /** Signs a device in: the secret that its cookie holds. The oldest sessions go where there are too many. */
    signIn(name: string, address: string): { secret: string; maxAgeS: number } {
      const secret = newSecret()
      const maxAgeS = (SESSION_DAYS * DAY_MS) / 1000
      const at = iso()
      const session: Session = {
        id: newId(),
        name,
        address,
        createdAt: at,
        expiresAt: iso(clock() + maxAgeS * 1000),
        seenAt: at,
        writtenAt: clock(),
      }
      sessions.set(keyOf(secret), session)
      const over = [...sessions].filter(([, each]) => isOver(each)).map(([key]) => key)
      const oldest = [...sessions.keys()].slice(0, Math.max(0, sessions.size - MOST_SESSIONS))
      later(
        {
          sql: `insert into sessions (hash, created_at, expires_at, id, name, address, seen_at) values (?, ?, ?, ?, ?, ?, ?)`,
          args: [hashOf(secret), at, session.expiresAt, session.id, name, address, at],
        },
        ...[...new Set([...over, ...oldest])].map(endSession),
      )
      return { secret, maxAgeS }
    },

    /** Who holds a cookie; null for one that is not, or not any more, good. Noted as seen. */
    holderOfSession(secret: string): Holder | null {
      const session = sessionOf(secret)
      if (!session) return null
      session.seenAt = iso()
      if (clock() - session.writtenAt > SEEN_EVERY_MS) {
        session.writtenAt = clock()
        ifEasy({
          sql: 'update sessions set seen_at = ?, id = ? where hash = ?',
          args: [session.seenAt, session.id, hashOf(secret)],
        })
      }
      return { id: session.id, allowed: null }
    },

    /** Who holds a token; null for one that is not known. Noted as used. */
    holderOfToken(secret: string): Holder | null {
      const token = tokens.get(keyOf(secret))
      if (!token) return null
      token.usedAt = iso()
      if (clock() - token.writtenAt > SEEN_EVERY_MS) {
        token.writtenAt = clock()
        ifEasy({
          sql: 'update tokens set used_at = ? where id = ?',
          args: [token.usedAt, token.id],
        })
      }
      return { id: token.id, allowed: token }
    },

    /** Whether a device or a token is in still: sessions run out by themselves. */
    holds: (id: string): boolean =>
      [...tokens.values()].some((token) => token.id === id) ||
      [...sessions.values()].some((session) => session.id === id && !isOver(session)),

    /** Calls when a holder's access ends; gives back what stops that. */
    onEnd(id: string, hear: () => void): () => void {
      const all = ended.get(id) ?? new Set()
      ended.set(id, all)
      all.add(hear)
      return () => {
        all.delete(hear)
        if (all.size === 0) ended.delete(id)
      }
    },

    signOut(secret: string): void {
      later(endSession(keyOf(secret)))
    },

    signOutEverywhere(tokensToo: boolean): void {
      later(...endAllSessions(), ...(tokensToo ? endAllTokens() : []), 'delete from sessions')
    },

    /** Devices that are signed in, the one seen last first. */
    devices: (secret: string): Device[] => {
      const here = keyOf(secret)
      return [...sessions]
        .filter(([, session]) => !isOver(session))
        .map(([key, { id, name, address, createdAt, seenAt }]) => ({
          id,
          name,
          address,
          signedInAt: createdAt,
          seenAt,
          here: key === here,
        }))
        .sort((a, b) => b.seenAt.localeCompare(a.seenAt))
    },

    /** Ends one device's session; false where there is none. */
    endDevice(id: string): boolean {
      const found = [...sessions].find(([, session]) => session.id === id)
      if (!found) return false
      later(endSession(found[0]))
      return true
    },

    tokens: (): Token[] =>
      [...tokens.values()]
        .map(({ writtenAt: _, ...token }) => token)
        .sort((a, b) => b.createdAt.localeCompare(a.createdAt)),

    /**
     * Makes a token; null where there are too many. What comes back is the only time that it is shown.
     *
     * @throws what kept it from being written; there is no token then
     */
    async makeToken({
      name,
      scope,
      chainId,
    }: Omit<TokenBody, 'passphrase'>): Promise<(Token & { token: string }) | null> {
      if (tokens.size >= MOST_TOKENS) return null
      const token = `slt_${newSecret()}`
      const one = chainId === undefined || !isOfOneChain(scope) ? {} : { chainId }
      const made = { id: newId(), name, scope, ...one, createdAt: iso(), usedAt: null }
      await run({
        sql: 'insert into tokens (id, name, scope, hash, created_at, used_at, chain_id) values (?, ?, ?, ?, ?, null, ?)',
        args: [made.id, name, scope, hashOf(token), made.createdAt, one.chainId ?? null],
      })
      tokens.set(keyOf(token), { ...made, writtenAt: 0 })
      return { ...made, token }
    },

    revokeToken(id: string): boolean {
      const found = [...tokens].find(([, token]) => token.id === id)
      if (!found) return false
      tokens.delete(found[0])
      tellEnd(id)
      later({ sql: 'delete from tokens where id = ?', args: [id] })
      return true
    },

    /** Notes a sign-in or a refusal, for the operator to see. */
    note(event: string, address: string): void {
      const at = iso()
      events.unshift({ at, event, address })
      events.length = Math.min(events.length, MOST_EVENTS)
      ifEasy({ sql: 'insert into events values (?, ?, ?)', args: [at, event, address] })
      ifEasy({
        sql: `delete from events where rowid not in (select rowid from events order by at desc limit ?)`,
        args: [MOST_EVENTS],
      })
    },

    events: (): readonly AccessEvent[] => events,
  }
}
