// `npm run try-package`: packs Salt Line, installs it into an empty folder with another HOME, and uses it as a stranger would.
// Prints what it took; ends with an error where something does not work.
import { spawn, spawnSync } from 'node:child_process'
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import assert from 'node:assert/strict'
import { root } from './ready.mjs'

const folder = mkdtempSync(join(tmpdir(), 'saltline-package-'))
const home = join(folder, 'home')
mkdirSync(home)
/** Nothing of this clone, and nothing of whoever runs this. */
const env = {
  PATH: process.env.PATH,
  HOME: home,
  ...(process.env.NODE_EXTRA_CA_CERTS && { NODE_EXTRA_CA_CERTS: process.env.NODE_EXTRA_CA_CERTS }),
  ...(process.env.npm_config_registry && { npm_config_registry: process.env.npm_config_registry }),
}

function must(command, args, options = {}) {
  const { status, stdout, stderr } = spawnSync(command, args, { encoding: 'utf8', ...options })
  assert.equal(status, 0, `${command} ${args.join(' ')}\n${stdout}\n${stderr}`)
  return stdout
}

const sizeOf = (path) =>
  statSync(path).isDirectory()
    ? readdirSync(path).reduce((sum, name) => sum + sizeOf(join(path, name)), 0)
    : statSync(path).size

let child
try {
  must('node', ['scripts/pack.mjs'], { cwd: root })
  const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'))
  const file = join(root, `saltline-${version}.tgz`)
  const npmrc = must('npm', ['config', 'get', 'registry']).trim()
  must('npm', ['install', '--global', '--prefix', folder, '--no-audit', '--no-fund', file], {
    env: { ...env, npm_config_registry: npmrc },
    cwd: folder,
  })
  const saltline = join(folder, 'bin/saltline')
  const use = (...args) => must(saltline, args, { env, cwd: folder })
  assert.equal(use('--version').trim(), version)
  assert.match(
    use(
      'loss',
      '--cable',
      'RG-213',
      '--length',
      '34m',
      '--frequency',
      '8.3MHz',
      '--swr',
      '2.4',
      '--power',
      '80W',
    ).replaceAll('\u00a0', ' '),
    /^Of 80 W, 5\d.* reaches the antenna/,
  )
  const wrong = spawnSync(
    saltline,
    ['loss', '--cable', 'no such', '--length', '3', '--frequency', '8'],
    { env, encoding: 'utf8' },
  )
  assert.equal(wrong.status, 1)
  assert.match(wrong.stderr, /^saltline: “no such” is no cable/)
  assert.equal(spawnSync(saltline, ['nonsense'], { env }).status, 2)
  assert.match(use('demo', '--service'), /ExecStart=.*saltline.*serve/)

  const database = join(home, '.local/share/saltline/demo.sqlite')
  const begin = async () => {
    const began = performance.now()
    child = spawn(saltline, ['demo', '--port', '0', '--quiet'], { env, cwd: folder })
    let said = ''
    child.stdout.on('data', (part) => (said += part))
    child.stderr.on('data', (part) => (said += part))
    for (;;) {
      const base = /http:\/\/127\.0\.0\.1:\d+/.exec(said)?.[0]
      if (base) {
        const health = await fetch(`${base}/api/health`)
        assert.equal(health.status, 200)
        return { base, ms: performance.now() - began }
      }
      assert.equal(child.exitCode, null, said)
      await new Promise((done) => setTimeout(done, 10))
    }
  }
  const end = async () => {
    const gone = new Promise((done) => child.once('exit', done))
    const began = performance.now()
    child.kill('SIGTERM')
    assert.equal(await gone, 0)
    return performance.now() - began
  }
  const residentMb = () =>
    Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? NaN) /
    1024
  await begin()
  await end()
  const { base, ms } = await begin()
  const get = async (path) => {
    const answer = await fetch(base + path)
    assert.equal(answer.status, 200, path)
    return answer
  }
  assert.match(await (await get('/')).text(), /<title>/)
  assert.match(await (await get('/docs/core/functions/solveChain.html')).text(), /solveChain/)
  const { chains } = await (await get('/api/stations/merrow-point')).json()
  assert.equal(chains.length, 4)
  await get('/api/stations/merrow-point/alerts')
  await get('/api/chains/hf-long-run')
  const board = residentMb()

  // Beside the running server.
  const copied = JSON.parse(use('backup', '--db', database, '--json'))
  assert.ok(existsSync(copied.file))
  const [listed] = JSON.parse(use('backups', '--db', database, '--json'))
  assert.equal(listed.name, copied.name)
  assert.equal(JSON.parse(use('check', '--db', database, '--json')).sound, true)
  const station = join(folder, 'station.json')
  use('export', '--db', database, '--out', station)
  assert.match(use('import', station, '--db', database), /was added, with 4 chains/)
  assert.equal((await (await get('/api/stations')).json()).length, 2)
  const csv = use('export', '--db', database, '--station', 'merrow-point', '--format', 'csv')
  assert.ok(csv.split('\r\n').length > 700)
  // The log's own CSV is there already; a table typed elsewhere is not, and comes on standard input.
  const toDemo = ['--db', database, '--station', 'merrow-point', '--json']
  const given = (input) =>
    JSON.parse(must(saltline, ['import', '-', ...toDemo], { env, cwd: folder, input }))
  assert.deepEqual(given(csv), { added: 0, already: csv.split('\r\n').length - 2 })
  const typed = 'when, MHz, mode, forward W\n2026-11-18 09:30, 8.294, key-down, 121\n'
  assert.deepEqual(given(typed), { added: 1, already: 0 })
  const misread = spawnSync(saltline, ['import', '-', ...toDemo], {
    env,
    input: typed.replace('121', 'abc'),
    encoding: 'utf8',
  })
  assert.match(misread.stderr, /was not imported:\n {2}line 2: /)
  assert.match(use('restore', copied.name, '--db', database), /^Restored Merrow Point/)
  assert.equal((await (await get('/api/stations')).json()).length, 1)
  // A plan and two exports; afterwards threads that have nothing to do end.
  const { document } = await (await get('/api/chains/hf-long-run')).json()
  const lines = document.stages.filter(({ kind }) => kind === 'line')
  const candidates = Array.from({ length: 40 }, (_, i) => ({
    id: `c${i}`,
    cable: { ...lines[0].cable, name: `c${i}`, k1DbPer100m: 0.5 + i / 50, k2DbPer100m: 0.001 },
    costPerM: 1 + ((i * 37) % 140) / 20,
  }))
  const sections = lines.slice(0, 2).map(({ id }) => ({ stageId: id, candidates }))
  const planned = await fetch(`${base}/api/plan`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ document, sections, counts: 'worst', costPerSection: 0 }),
  })
  assert.equal(planned.status, 200)
  for (const path of ['log.csv', 'file'])
    await (await get(`/api/stations/merrow-point/${path}`)).arrayBuffer()
  const worked = residentMb()
  let rested = NaN
  if (process.env.SALTLINE_MINUTE) {
    await new Promise((done) => setTimeout(done, 60_000))
    rested = residentMb()
  }
  const stopped = await end()

  // A database that is damaged is set aside, and what was copied is taken.
  const bytes = readFileSync(database)
  bytes.fill(0x5a, 4096, 40_960)
  writeFileSync(database, bytes)
  assert.equal(spawnSync(saltline, ['check', '--db', database], { env }).status, 1)
  assert.match(use('restore', copied.name, '--db', database), /set aside as/)
  assert.equal(JSON.parse(use('check', '--db', database, '--json')).sound, true)

  const installedMb = sizeOf(join(folder, 'lib')) / 1e6
  console.log(
    `package ${(statSync(file).size / 1e6).toFixed(1)} MB, installed ${installedMb.toFixed(0)} MB; ` +
      `answers after ${ms.toFixed(0)} ms, stops within ${stopped.toFixed(0)} ms, ${board.toFixed(0)} MB resident after the board and a chain, ` +
      `${worked.toFixed(0)} MB after a plan and two exports${Number.isNaN(rested) ? '' : `, ${rested.toFixed(0)} MB a minute later`}`,
  )
} finally {
  child?.kill('SIGKILL')
  rmSync(folder, { recursive: true, force: true })
}
