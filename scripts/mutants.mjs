// `npm run mutants`: how many single changes of the code the tests notice (StrykerJS with its Vitest runner).
//   npm run mutants                              core, contract, web/src/model and server/src/store, for an hour
//   npm run mutants -- core/src/runs web/src/model
//   npm run mutants -- --minutes 10 core/src/line/cable.ts
// Files are taken in an order drawn anew each time, and none is begun after the time is up. Prints the share of each
// workspace, and what survived with its place.
//
// Each change is first held against the tests that run its code. What a test file computes before its tests begin is said of
// none of them: what survives is held once more against all tests that name something the file exports.
import { readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
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

const NONE = ['Ignored', 'CompileError', 'RuntimeError']
const NOTICED = ['Killed', 'Timeout']
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
  looked += some.length
  for (const [file, { mutants }] of Object.entries(stryker(some, 'stryker.config.json'))) {
    const counted = told.get(areaOf(file)) ?? { noticed: 0, all: 0 }
    const real = mutants.filter(({ status }) => !NONE.includes(status))
    const alive = stillAlive(
      file,
      real.filter(({ status }) => !NOTICED.includes(status)),
    )
    counted.all += real.length
    counted.noticed += real.length - alive.length
    for (const { location, mutatorName, replacement } of alive)
      survived.push(
        `${file}:${location.start.line}:${location.start.column} ${mutatorName}: ${(replacement ?? '').split('\n')[0].slice(0, 80)}`,
      )
    told.set(areaOf(file), counted)
  }
  console.log(`${looked} of ${files.length} files`)
}
for (const line of survived.toSorted()) console.log(line)
for (const [area, { noticed, all }] of [...told].toSorted(([a], [b]) => (a < b ? -1 : 1)))
  console.log(
    `${area}: ${noticed} of ${all} noticed${all > 0 ? `, ${((100 * noticed) / all).toFixed(1)} %` : ''}`,
  )

/**
 * What Stryker found, by file.
 *
 * @param {string[]} mutate files, or ranges of them
 * @param {string} config
 * @param {string[]} tests those alone; without any, all
 */
function stryker(mutate, config, tests = []) {
  rmSync(report, { force: true })
  const { stdout, stderr } = spawnSync(
    'npx',
    ['stryker', 'run', config, '--mutate', mutate.join(','), '--logLevel', 'error'],
    {
      cwd: root,
      encoding: 'utf8',
      maxBuffer: 2 ** 28,
      env: { ...process.env, MUTANTS_TESTS: tests.join(',') },
    },
  )
  try {
    return JSON.parse(readFileSync(report, 'utf8')).files
  } catch {
    console.error(`${stdout}\n${stderr}`)
    process.exit(1)
  }
}

/** Those of some changes of a file that also survive all tests that name something it exports. */
function stillAlive(file, mutants) {
  const tests = testsNaming(file)
  if (mutants.length === 0 || tests.length === 0) return mutants
  const config = 'node_modules/.cache/stryker.again.json'
  const { ignoreStatic: _, ...rest } = JSON.parse(
    readFileSync(join(root, 'stryker.config.json'), 'utf8'),
  )
  writeFileSync(join(root, config), JSON.stringify({ ...rest, coverageAnalysis: 'off' }))
  const place = ({ start, end: to }) => `${start.line}:${start.column}-${to.line}:${to.column}`
  const key = ({ location, replacement }) => `${place(location)} ${replacement}`
  // Stryker counts columns from zero where it is told of a range, and from one where it reports.
  const range = ({ start, end: to }) =>
    `${file}:${start.line}:${start.column - 1}-${to.line}:${to.column - 1}`
  const found = stryker([...new Set(mutants.map((own) => range(own.location)))], config, tests)
  const noticed = new Set(
    Object.values(found)
      .flatMap((own) => own.mutants)
      .filter(({ status }) => NOTICED.includes(status))
      .map(key),
  )
  return mutants.filter((own) => !noticed.has(key(own)))
}

/** The tests of a file's workspace that name one of its exports. */
function testsNaming(file) {
  const names = [
    ...readFileSync(join(root, file), 'utf8').matchAll(
      /^export (?:async )?(?:function|const|class) (\w+)/gm,
    ),
  ].map(([, name]) => name)
  if (names.length === 0) return []
  const named = spawnSync(
    'git',
    ['grep', '-lwE', names.join('|'), '--', `${file.split('/')[0]}/test/*.test.ts`],
    { cwd: root, encoding: 'utf8' },
  )
  // As the configuration has them.
  return named.stdout
    .split('\n')
    .filter((path) => path.endsWith('.test.ts'))
    .filter((path) => !path.includes('.long.') || path.endsWith('runSafety.long.test.ts'))
}

/** @param {string} file */
function areaOf(file) {
  return /^(core\/src\/(runs|limits)|web\/src\/model|server\/src\/store|\w+)/.exec(file)[0]
}
