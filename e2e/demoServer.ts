import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'

/** Starts a server with a fresh demo station on loopback; resolves when it answers. */
export async function startDemoServer(port: number): Promise<{ url: string; stop: () => void }> {
  const db = join(mkdtempSync(join(tmpdir(), 'saltline-')), 'demo.sqlite')
  const server: ChildProcess = spawn(
    process.execPath,
    [
      '--import',
      'tsx',
      'server/src/main.ts',
      '--create',
      '--demo',
      '--quiet',
      '--port',
      String(port),
      '--db',
      db,
    ],
    { cwd: resolve(import.meta.dirname, '..'), stdio: ['ignore', 'pipe', 'inherit'] },
  )
  await new Promise((ready) => server.stdout!.once('data', ready))
  return { url: `http://127.0.0.1:${port}`, stop: () => void server.kill() }
}
