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
/** The same without windows and menus: browser tests take it where it is there, and need a quarter less of the processor. */
const WITHOUT_WINDOWS = 'chromium-headless-shell'

const isRoot = process.getuid?.() === 0
const found = (command) => spawnSync(command, ['--version'], { stdio: 'ignore' }).status === 0

/** Debian's package manager, as root. @returns {boolean} whether it ended well */
function apt(...args) {
  const [command, ...rest] = [...(isRoot ? [] : ['sudo']), 'apt-get', '-qq', ...args]
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  return spawnSync(command, rest, { stdio: 'inherit', env }).status === 0
}

/**
 * Debian's Chromium, for the browser tests and the screenshots. Without Debian's package manager it says what
 * to install and gives false.
 */
export function installChromium() {
  if (existsSync(CHROMIUM)) {
    addWithoutWindows()
    return true
  }
  const cannot = (why) => {
    console.error(
      `The browser tests need Chromium at ${CHROMIUM}, and ${why}. Install it (on Debian: apt-get install chromium; elsewhere your system’s package of Chromium, with a link at ${CHROMIUM}), then run this again. Everything else is tested without it.`,
    )
    return false
  }
  if (!found('apt-get')) return cannot('this system has no apt-get')
  if (!isRoot && !found('sudo')) return cannot('installing it takes root or sudo')
  console.log('Installing Chromium…')
  if (!apt('update')) return cannot('apt-get could not read its lists')
  return (
    ((apt('install', '-y', 'chromium', WITHOUT_WINDOWS) || apt('install', '-y', 'chromium')) &&
      existsSync(CHROMIUM)) ||
    cannot('apt-get could not install it')
  )
}

/** Where nobody has to be asked for it, and in the very version of the Chromium that is there: nothing else is changed. */
function addWithoutWindows() {
  if (!isRoot || existsSync(`/usr/bin/${WITHOUT_WINDOWS}`) || !found('apt-get')) return
  const { stdout } = spawnSync('dpkg-query', ['-W', '-f', '${Version}', 'chromium'], {
    encoding: 'utf8',
  })
  if (!stdout) return
  const wait = ['-o', 'Acquire::Retries=0', '-o', 'Acquire::http::Timeout=20']
  const wanted = `${WITHOUT_WINDOWS}=${stdout}`
  console.log('Installing Chromium without windows…')
  if (apt('install', '-y', ...wait, wanted)) return
  if (!apt('update', ...wait) || !apt('install', '-y', ...wait, wanted))
    console.log('It is not to be had in this version: the tests take Chromium itself.')
}
