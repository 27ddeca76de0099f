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

/**
 * Debian's Chromium, for the browser tests and the screenshots. Without Debian's package manager it says what
 * to install and gives false.
 */
export function installChromium() {
  if (existsSync(CHROMIUM)) return true
  const cannot = (why) => {
    console.error(
      `The browser tests need Chromium at ${CHROMIUM}, and ${why}. Install it (on Debian: apt-get install chromium; elsewhere your system’s package of Chromium, with a link at ${CHROMIUM}), then run this again. Everything else is tested without it.`,
    )
    return false
  }
  const found = (command) => spawnSync(command, ['--version'], { stdio: 'ignore' }).status === 0
  if (!found('apt-get')) return cannot('this system has no apt-get')
  const root = process.getuid?.() === 0
  if (!root && !found('sudo')) return cannot('installing it takes root or sudo')
  console.log('Installing Chromium…')
  const apt = (...args) => {
    const [command, ...rest] = [...(root ? [] : ['sudo']), 'apt-get', ...args]
    return (
      spawnSync(command, rest, {
        stdio: 'inherit',
        env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      }).status === 0
    )
  }
  return (
    (apt('update', '-qq') && apt('install', '-y', '-qq', 'chromium') && existsSync(CHROMIUM)) ||
    cannot('apt-get could not install it')
  )
}
