// `npm test`: installs what is missing, then lint, types, unit and server tests, browser tests.
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { installChromium, installDependencies, root, typesOf } from './ready.mjs'

installDependencies()
const chromium = installChromium()

const results = mkdtempSync(join(tmpdir(), 'saltline-tests-'))
let passed = 0
let failed = 0

function step(title, command, args, env = {}) {
  console.log(`\n── ${title}`)
  const { status } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  })
  return status === 0
}

/** A step that is one test in itself. */
function check(title, command, args) {
  if (step(title, command, args)) passed++
  else failed++
}

/** A runner that writes a report: its tests are counted; a run without a report is a failure. */
function suite(title, command, args, env, count) {
  const ok = step(title, command, args, env)
  try {
    const counted = count()
    passed += counted.passed
    failed += counted.failed
    if (!ok && counted.failed === 0) failed++
  } catch {
    console.error(`${title}: no report was written`)
    failed++
  }
}

check('ESLint', 'npx', ['eslint', '.', '--max-warnings', '0'])
check('Prettier', 'npx', ['prettier', '--check', '--log-level', 'warn', '.'])
for (const workspace of ['core', 'contract', 'server', 'web', 'e2e'])
  check(`types of ${workspace}`, 'npx', typesOf(workspace))

const unitReport = join(results, 'unit.json')
suite(
  'unit and server tests',
  'npx',
  ['vitest', 'run', '--reporter=dot', '--reporter=json', `--outputFile.json=${unitReport}`],
  {},
  () => {
    const report = JSON.parse(readFileSync(unitReport, 'utf8'))
    return { passed: report.numPassedTests, failed: report.numFailedTests }
  },
)

check('build of the interface', 'npm', ['run', 'build', '-w', 'web', '--silent'])

if (!chromium) {
  console.error(
    '\nThe browser tests were not run: there is no Chromium. What to install is said above.',
  )
  console.log(`\n${passed} passed, ${failed} failed, 1 skipped`)
  process.exit(failed > 0 ? 1 : 0)
}
const browserReport = join(results, 'browser.json')
suite(
  'browser tests',
  'npx',
  ['playwright', 'test', '--config', 'e2e/playwright.config.ts', '--reporter=list,json'],
  { PLAYWRIGHT_JSON_OUTPUT_NAME: browserReport },
  () => {
    const { stats } = JSON.parse(readFileSync(browserReport, 'utf8'))
    return { passed: stats.expected, failed: stats.unexpected + stats.flaky }
  },
)

console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed > 0 ? 1 : 0)
