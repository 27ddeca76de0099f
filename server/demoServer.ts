import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'

export interface DemoServer {
  url: string
  pid: number
  /** The newest of what it said on its error output. */
  said: () => string
  alive: () => boolean
  /** Measures the delay of its event loop while something is done: [median, 99 %, worst], ms. */
  loopDelay: (during: () => Promise<unknown>) => Promise<[number, number, number]>
  /** Ends it in an orderly way, and removes its database. */
  stop: () => Promise<void>
}

/** Starts the built server with a fresh demo station on a free port of loopback; resolves when it answers. */
export async function startDemoServer(): Promise<DemoServer> {
  const folder = mkdtempSync(join(tmpdir(), 'saltline-'))
  const child = spawn(
    process.execPath,
    [
      ...['--import', './server/bench/loopDelay.mjs'],
      ...['server/dist/main.mjs', '--create', '--demo', '--quiet'],
      ...['--port', '0', '--db', join(folder, 'demo.sqlite')],
    ],
    { cwd: resolve(import.meta.dirname, '..'), stdio: ['ignore', 'pipe', 'pipe', 'ipc'] },
  )
  let said = ''
  child.stderr!.on('data', (text) => (said = (said + String(text)).slice(-20_000)))
  const ended = new Promise<number | null>((done) => child.once('exit', done))
  const url = await Promise.race([
    new Promise<string>((done) => {
      let output = ''
      child.stdout!.on('data', (text) => {
        output += String(text)
        const address = /http:\/\/[\d.]+:\d+/.exec(output)
        if (address) done(address[0])
      })
    }),
    ended.then((code) => Promise.reject(new Error(`The server ended with ${code}: ${said}`))),
  ])
  return {
    url,
    pid: child.pid!,
    said: () => said,
    alive: () => child.exitCode === null,
    loopDelay: async (during) => {
      child.send('begin')
      await during()
      const told = new Promise<[number, number, number]>((done) =>
        child.once('message', (delays) => done(delays as [number, number, number])),
      )
      child.send('end')
      return told
    },
    stop: async () => {
      child.kill('SIGTERM')
      await ended
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
