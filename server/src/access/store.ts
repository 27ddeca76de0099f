/**
 * What access rests on, in a database file of its own beside the station's: a backup of the station then carries no hash,
 * no session and no token.
 */
import { chmodSync, existsSync } from 'node:fs'
import { createHash, randomBytes } from 'node:crypto'
import { type Client, createClient } from '@libsql/client'
import { newId, type Scope, type Token, type TokenBody } from '@saltline/contract'
import { urlOf } from '../db/connection.ts'
import { type Kept, keepPassphrase } from './passphrase.ts'

/** How long a device stays signed in, days. */
const SESSION_DAYS = 30
/** Sessions and tokens there may be at once. */
const MOST_SESSIONS = 200
const MOST_TOKENS = 50
/** The last use of a token is written down this often, ms. */
const USED_EVERY_MS = 60_000

const TABLES = [
  `create table if not exists passphrase (id integer primary key check (id = 1), salt blob not null, hash blob not null)`,
  `create table if not exists sessions (hash blob primary key, created_at text not null, expires_at text not null)`,
  `create table if not exists tokens (id text primary key, name text not null, scope text not null, hash blob not null unique,
     created_at text not null, used_at text)`,
]

/** The file beside a station's database. */
export const accessFileOf = (file: string): string => file.replace(/(\.sqlite)?$/, '-access.sqlite')

const hashOf = (secret: string): Buffer => createHash('sha256').update(secret).digest()
const newSecret = (): string => randomBytes(32).toString('base64url')
const bytes = (value: unknown): Buffer => Buffer.from(value as ArrayBuffer)

export type AccessStore = Awaited<ReturnType<typeof openAccess>>

export async function openAccess(file: string) {
  const fresh = !existsSync(file)
  const db: Client = createClient({ url: urlOf(file), timeout: 5000 })
  for (const table of TABLES) await db.execute(table)
  // For the one who runs the server alone.
  if (fresh) chmodSync(file, 0o600)
  const now = () => new Date().toISOString()

  return {
    close: () => db.close(),

    async passphrase(): Promise<Kept | null> {
      const { rows } = await db.execute('select salt, hash from passphrase')
      const [row] = rows
      return row ? { salt: bytes(row['salt']), hash: bytes(row['hash']) } : null
    },

    /** Another passphrase: every device has to sign in anew. */
    async setPassphrase(passphrase: string): Promise<void> {
      const { salt, hash } = await keepPassphrase(passphrase)
      await db.batch(
        [
          {
            sql: `insert into passphrase values (1, ?, ?) on conflict (id) do update set salt = excluded.salt, hash = excluded.hash`,
            args: [salt, hash],
          },
          'delete from sessions',
        ],
        'write',
      )
    },

    /** Signs a device in: the secret that its cookie holds. The oldest sessions go where there are too many. */
    async signIn(): Promise<{ secret: string; maxAgeS: number }> {
      const secret = newSecret()
      const maxAgeS = SESSION_DAYS * 86_400
      const expires = new Date(Date.now() + maxAgeS * 1000).toISOString()
      await db.batch(
        [
          { sql: 'delete from sessions where expires_at < ?', args: [now()] },
          { sql: 'insert into sessions values (?, ?, ?)', args: [hashOf(secret), now(), expires] },
          {
            sql: `delete from sessions where hash not in (select hash from sessions order by created_at desc limit ?)`,
            args: [MOST_SESSIONS],
          },
        ],
        'write',
      )
      return { secret, maxAgeS }
    },

    async hasSession(secret: string): Promise<boolean> {
      const { rows } = await db.execute({
        sql: 'select 1 from sessions where hash = ? and expires_at > ?',
        args: [hashOf(secret), now()],
      })
      return rows.length > 0
    },

    async signOut(secret: string): Promise<void> {
      await db.execute({ sql: 'delete from sessions where hash = ?', args: [hashOf(secret)] })
    },

    async signOutEverywhere(): Promise<void> {
      await db.execute('delete from sessions')
    },

    async tokens(): Promise<Token[]> {
      const { rows } = await db.execute(
        'select id, name, scope, created_at, used_at from tokens order by created_at desc',
      )
      return rows.map((row) => ({
        id: String(row['id']),
        name: String(row['name']),
        scope: row['scope'] as Scope,
        createdAt: String(row['created_at']),
        usedAt: row['used_at'] === null ? null : String(row['used_at']),
      }))
    },

    /** Makes a token; null where there are too many. What comes back is the only time that it is shown. */
    async makeToken({ name, scope }: TokenBody): Promise<(Token & { token: string }) | null> {
      if ((await this.tokens()).length >= MOST_TOKENS) return null
      const token = `slt_${newSecret()}`
      const made = { id: newId(), name, scope, createdAt: now(), usedAt: null }
      await db.execute({
        sql: 'insert into tokens values (?, ?, ?, ?, ?, null)',
        args: [made.id, name, scope, hashOf(token), made.createdAt],
      })
      return { ...made, token }
    },

    async revokeToken(id: string): Promise<boolean> {
      const { rowsAffected } = await db.execute({
        sql: 'delete from tokens where id = ?',
        args: [id],
      })
      return rowsAffected > 0
    },

    /** What a token may; null for one that is not known. */
    async scopeOf(token: string): Promise<Scope | null> {
      const { rows } = await db.execute({
        sql: 'select id, scope, used_at from tokens where hash = ?',
        args: [hashOf(token)],
      })
      const [row] = rows
      if (!row) return null
      const used = row['used_at'] === null ? 0 : Date.parse(String(row['used_at']))
      if (Date.now() - used > USED_EVERY_MS)
        await db.execute({
          sql: 'update tokens set used_at = ? where id = ?',
          args: [now(), String(row['id'])],
        })
      return row['scope'] as Scope
    },
  }
}
