// Commands, alone or beside each other: what each prints is shown in one piece when it ends.
import { spawn } from 'node:child_process'
import { root } from './ready.mjs'

const seconds = (since) => `${Math.round((Date.now() - since) / 1000)} s`

/**
 * Runs a command in the project's root.
 * @returns {Promise<boolean>} whether it ended well
 * @param {{ env?: NodeJS.ProcessEnv, quiet?: boolean, live?: boolean }} options quiet: its output is shown only where it
 * fails; live: as it comes
 */
export function step(title, command, args, { env = {}, quiet = false, live = false } = {}) {
  return new Promise((done) => {
    const since = Date.now()
    const own = spawn(command, args, {
      cwd: root,
      stdio: live ? ['ignore', 'inherit', 'inherit'] : ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, ...env },
    })
    let output = ''
    const keep = (text) => (output += text)
    own.stdout?.on('data', keep)
    own.stderr?.on('data', keep)
    own.on('error', (error) => keep(error.message))
    own.on('close', (status) => {
      const ok = status === 0
      console.log(`${ok ? 'ok    ' : 'FAILED'} ${title} (${seconds(since)})`)
      if (!live && (!quiet || !ok)) console.log(output)
      done(ok)
    })
  })
}

/** One after another, all of them. @param {(() => Promise<boolean>)[]} steps */
export async function inTurn(...steps) {
  let ok = true
  for (const each of steps) ok = (await each()) && ok
  return ok
}
