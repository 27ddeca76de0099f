import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'

/** Starts a server with a fresh demo station on a free port of loopback; resolves when it answers. */
export async function startDemoServer(): Promise<{ url: string; stop: () => void }> {
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
      '0',
      '--db',
      db,
    ],
    { cwd: resolve(import.meta.dirname, '..'), stdio: ['ignore', 'pipe', 'inherit'] },
  )
  const url = await new Promise<string>((give, fail) => {
    let said = ''
    server.stdout!.on('data', (chunk: Buffer) => {
      said += chunk.toString()
      const address = /http:\/\/[\d.]+:\d+/.exec(said)
      if (address) give(address[0])
    })
    server.once('exit', (code) => fail(new Error(`The server ended with ${code}: ${said}`)))
  })
  return { url, stop: () => void server.kill() }
}
