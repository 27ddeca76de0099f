// `npm run fuzz`: the properties and the readers' fuzzing on fresh seeds, for as long as told.
//   npm run fuzz                  five minutes
//   npm run fuzz -- 60            an hour
//   npm run fuzz -- 60 tuner      only test files with that in their name
//   npm run fuzz -- --seed 123    one round on a seed that failed
// Then a hundred thousand mangled requests to every address of the API (server/fuzz/routes.ts).
import { spawnSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { installDependencies, root, run } from './ready.mjs'

const words = process.argv.slice(2)
const at = words.indexOf('--seed')
const fixed = at < 0 ? null : Number(words.splice(at, 2)[1])
const minutes = Number(words.find((word) => /^\d+(\.\d+)?$/.test(word)) ?? 5)
const filters = words.filter((word) => !/^\d+(\.\d+)?$/.test(word))
if (fixed !== null && !Number.isInteger(fixed)) {
  console.error('A seed is a whole number: npm run fuzz -- --seed 123')
  process.exit(2)
}

installDependencies()
run('npm', ['run', 'build', '-w', 'server', '--silent'])
const files = ['core', 'contract', 'server', 'web'].flatMap((workspace) =>
  readdirSync(join(root, workspace, 'test'))
    .map((name) => join(workspace, 'test', name))
    .filter((file) => file.endsWith('.test.ts'))
    .filter((file) => /fast-check|drawn\(/.test(readFileSync(join(root, file), 'utf8')))
    .filter((file) => filters.length === 0 || filters.some((filter) => file.includes(filter))),
)
const end = Date.now() + minutes * 60_000
let rounds = 0
const failed = []
do {
  const seed = fixed ?? Math.floor(Math.random() * 2 ** 31)
  const { status } = spawnSync('npx', ['vitest', 'run', '--reporter=dot', ...files], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, SALTLINE_SEED: String(seed), SALTLINE_RUNS: '300' },
  })
  rounds++
  if (status !== 0) failed.push(seed)
  console.log(`seed ${seed}: ${status === 0 ? 'held' : `FAILED; npm run fuzz -- --seed ${seed}`}`)
} while (fixed === null && Date.now() < end)
console.log(`${rounds - failed.length} seeds held, ${failed.length} failed`)
let routes = 0
if (filters.length === 0)
  routes =
    spawnSync(
      'npx',
      ['tsx', 'server/fuzz/routes.ts', '100000', ...(fixed === null ? [] : [String(fixed)])],
      { cwd: root, stdio: 'inherit' },
    ).status ?? 1
process.exit(failed.length > 0 || routes !== 0 ? 1 : 0)
