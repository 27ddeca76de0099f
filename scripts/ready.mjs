// What every script needs first: the dependencies that package-lock.json names, installed.
import { spawnSync } from 'node:child_process'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import { resolve } from 'node:path'

export const root = resolve(import.meta.dirname, '..')

/** Runs a command in the project's root with its output shown; ends here if it fails. */
export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (status !== 0) process.exit(status ?? 1)
}

/** Installs dependencies where they are missing or not the ones that package-lock.json names. */
export function installDependencies() {
  const mark = resolve(root, 'node_modules/.saltline-installed')
  const wanted = createHash('sha256')
    .update(readFileSync(resolve(root, 'package-lock.json')))
    .digest('hex')
  if (existsSync(mark) && readFileSync(mark, 'utf8') === wanted) return
  console.log('Installing dependencies…')
  run('npm', ['ci', '--no-audit', '--no-fund'])
  writeFileSync(mark, wanted)
}

const CHROMIUM = '/usr/bin/chromium'

/** Debian's Chromium, for the browser tests and the screenshots. */
export function installChromium() {
  if (existsSync(CHROMIUM)) return
  console.log('Installing Chromium…')
  const sudo = process.getuid?.() === 0 ? [] : ['sudo']
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args]
    run(command, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } })
  }
  apt('update', '-qq')
  apt('install', '-y', '-qq', 'chromium')
}
