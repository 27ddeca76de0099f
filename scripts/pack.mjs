// `npm run pack`: one file to install Salt Line from, saltline-<version>.tgz: the interface built, the server bundled, migrations,
// demo, third-party notices. `npm install -g` of it brings in what cannot be bundled, and nothing of development.
import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs'
import { join, resolve } from 'node:path'
import { installDependencies, root, run } from './ready.mjs'

const at = (...path) => join(root, ...path)
const json = (path) => JSON.parse(readFileSync(at(path), 'utf8'))

installDependencies()
if (!process.env.SALTLINE_BUILT) run('npm', ['run', 'build', '--silent'])
if (!process.env.SALTLINE_BUILT || !existsSync(at('core/reference')))
  run('npm', ['run', 'reference', '--silent'])

const { version, description, engines } = json('package.json')
const lock = json('package-lock.json').packages
/** What finds files of its own beside it, or is a binary: see server/build.mjs. */
const needed = ['@libsql/client', 'pino', 'piscina']
const folder = at('dist-package')
rmSync(folder, { recursive: true, force: true })
mkdirSync(join(folder, 'dist'), { recursive: true })

for (const name of readdirSync(at('server/dist')))
  // What the browser tests begin a server with is not for use.
  if (!name.startsWith('inProcess'))
    cpSync(at('server/dist', name), join(folder, 'dist', name), { recursive: true })
cpSync(at('core/reference'), join(folder, 'coreReference'), { recursive: true })
cpSync(at('server/migrations'), join(folder, 'migrations'), { recursive: true })
cpSync(at('server/src/demo/antennas'), join(folder, 'src/demo/antennas'), { recursive: true })
cpSync(at('web/dist'), join(folder, 'web'), { recursive: true })
for (const name of ['README.md', 'CHANGELOG.md']) cpSync(at(name), join(folder, name))
cpSync(at('docs'), join(folder, 'docs'), { recursive: true })
writeFileSync(join(folder, 'THIRD-PARTY.txt'), notices())
writeFileSync(
  join(folder, 'package.json'),
  JSON.stringify(
    {
      ...{ name: 'saltline', version, description, engines, type: 'module' },
      bin: { saltline: 'dist/cli.mjs' },
      dependencies: Object.fromEntries(
        needed.map((name) => [name, lock[`node_modules/${name}`].version]),
      ),
    },
    null,
    2,
  ),
)
run('npm', ['pack', '--silent', '--pack-destination', root], { cwd: folder })
rmSync(folder, { recursive: true })
console.log(`It is at ${resolve(root, `saltline-${version}.tgz`)}`)

/** Of every library that comes with Salt Line: its name, its licence, and the licence's own words. */
function notices() {
  return Object.entries(lock)
    .filter(([path, { dev, link }]) => path.startsWith('node_modules/') && !dev && !link)
    .map(([path, { version: of, license }]) => {
      let text = ''
      try {
        const file = readdirSync(at(path)).find((name) => /^(licen[cs]e|copying)/i.test(name))
        if (file) text = readFileSync(at(path, file), 'utf8').trim()
      } catch {
        // Of another platform: it is not here.
        return null
      }
      return `${path.slice(13)} ${of} (${license ?? 'see its own files'})\n\n${text}\n`
    })
    .filter(Boolean)
    .join(`\n${'─'.repeat(72)}\n\n`)
}
