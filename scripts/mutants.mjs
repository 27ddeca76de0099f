// `npm run mutants`: how many single changes of the code the tests notice (StrykerJS with its Vitest runner).
//   npm run mutants                              core, contract, web/src/model and server/src/store, for an hour
//   npm run mutants -- core/src/runs web/src/model
//   npm run mutants -- --minutes 10 core/src/line/cable.ts
// Files are taken in an order drawn anew each time, and none is begun after the time is up. Prints the share of each
// workspace, and what survived with its place.
import { readFileSync, rmSync, statSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { installDependencies, root } from './ready.mjs'

const { values, positionals } = parseArgs({
  options: { minutes: { type: 'string', default: '60' } },
  allowPositionals: true,
})
const minutes = Number(values.minutes)
if (!(minutes > 0)) {
  console.error('--minutes takes a number: npm run mutants -- --minutes 10')
  process.exit(2)
}
installDependencies()

const wanted =
  positionals.length > 0
    ? positionals
    : ['core/src', 'contract/src', 'web/src/model', 'server/src/store']
const missing = wanted.filter((path) => !statSync(join(root, path), { throwIfNoEntry: false }))
if (missing.length > 0) {
  console.error(`There is no ${missing.join(', ')}.`)
  process.exit(2)
}
const files = spawnSync('git', ['ls-files', ...wanted], { cwd: root, encoding: 'utf8' })
  .stdout.split('\n')
  .filter((file) => file.endsWith('.ts'))
  .map((file) => ({ file, at: Math.random() }))
  .toSorted((a, b) => a.at - b.at)
  .map(({ file }) => file)

const report = join(root, 'node_modules/.cache/mutants.json')
/** Files a run of Stryker: its start takes as long as some of them. */
const AT_ONCE = 3
const end = Date.now() + minutes * 60_000
/** By workspace: how many were noticed, of how many. */
const told = new Map()
const survived = []
let looked = 0
for (let i = 0; i < files.length && Date.now() < end; i += AT_ONCE) {
  const some = files.slice(i, i + AT_ONCE)
  rmSync(report, { force: true })
  const { stdout, stderr } = spawnSync(
    'npx',
    ['stryker', 'run', 'stryker.config.json', '--mutate', some.join(','), '--logLevel', 'error'],
    { cwd: root, encoding: 'utf8', maxBuffer: 2 ** 28 },
  )
  let found
  try {
    found = JSON.parse(readFileSync(report, 'utf8')).files
  } catch {
    console.error(`${stdout}\n${stderr}`)
    process.exit(1)
  }
  looked += some.length
  for (const [file, { mutants }] of Object.entries(found)) {
    const counted = told.get(areaOf(file)) ?? { noticed: 0, all: 0 }
    for (const { status, location, mutatorName, replacement } of mutants) {
      if (['Ignored', 'CompileError', 'RuntimeError'].includes(status)) continue
      counted.all++
      if (['Killed', 'Timeout'].includes(status)) counted.noticed++
      else
        survived.push(
          `${file}:${location.start.line}:${location.start.column} ${mutatorName}: ${(replacement ?? '').split('\n')[0].slice(0, 80)}`,
        )
    }
    told.set(areaOf(file), counted)
  }
  console.log(`${looked} of ${files.length} files`)
}
for (const line of survived.toSorted()) console.log(line)
for (const [area, { noticed, all }] of [...told].toSorted(([a], [b]) => (a < b ? -1 : 1)))
  console.log(
    `${area}: ${noticed} of ${all} noticed${all > 0 ? `, ${((100 * noticed) / all).toFixed(1)} %` : ''}`,
  )

/** @param {string} file */
function areaOf(file) {
  return /^(core\/src\/(runs|limits)|web\/src\/model|server\/src\/store|\w+)/.exec(file)[0]
}
