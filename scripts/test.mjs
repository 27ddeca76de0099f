// `npm test`: installs what is missing, then lint, types, unit and server tests, browser tests.
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { installChromium, installDependencies, root } from './ready.mjs'

installDependencies()
const chromium = installChromium()

const results = mkdtempSync(join(tmpdir(), 'saltline-tests-'))
let passed = 0
let failed = 0
/** What failed, named once more at the end, where it is read. */
const failures = []

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
  else fail(title)
}

function fail(name) {
  failed++
  failures.push(name)
}

/** A runner that writes a report: its tests are counted; a run without a report is a failure. */
function suite(title, command, args, env, count) {
  const ok = step(title, command, args, env)
  try {
    const counted = count()
    passed += counted.passed
    counted.failed.forEach((name) => fail(`${title}: ${name}`))
    if (!ok && counted.failed.length === 0) fail(title)
  } catch {
    fail(`${title}: no report was written`)
  }
}

function end(remark = '') {
  if (failures.length > 0)
    console.log(`\nFailed:\n${failures.map((name) => `  ${name}`).join('\n')}`)
  console.log(`\n${passed} passed, ${failed} failed${remark}`)
  process.exit(failed > 0 ? 1 : 0)
}

/** @param {{ name: string, status: string, message: string, assertionResults: { status: string, fullName: string, failureMessages: string[] }[] }} file */
function failuresOfFile(file) {
  const tests = file.assertionResults.filter(({ status }) => status === 'failed')
  if (tests.length > 0)
    return tests.map(
      ({ fullName, failureMessages }) => `${fullName}: ${firstLine(failureMessages[0])}`,
    )
  return file.status === 'failed' ? [`${file.name}: ${firstLine(file.message)}`] : []
}

/** @param {{ specs?: { ok: boolean, file: string, title: string }[], suites?: object[] }} suite of a browser report */
function failedSpecs({ specs = [], suites = [] }) {
  return [
    ...specs.filter(({ ok }) => !ok).map(({ file, title }) => `${file}: ${title}`),
    ...suites.flatMap(failedSpecs),
  ]
}

function firstLine(text = '') {
  return text.split('\n', 1)[0].slice(0, 300)
}

for (const [title, script] of [
  ['lint and format', 'lint'],
  ['types', 'types'],
  ['who imports whom', 'imports'],
  ['what nobody uses', 'unused'],
])
  check(title, 'npm', ['run', '--silent', script])

const unitReport = join(results, 'unit.json')
suite(
  'unit and server tests',
  'npx',
  ['vitest', 'run', '--reporter=dot', '--reporter=json', `--outputFile.json=${unitReport}`],
  {},
  () => {
    const report = JSON.parse(readFileSync(unitReport, 'utf8'))
    return { passed: report.numPassedTests, failed: report.testResults.flatMap(failuresOfFile) }
  },
)

check('build', 'npm', ['run', 'build', '--silent'])

if (!chromium) {
  console.error(
    '\nThe browser tests were not run: there is no Chromium. What to install is said above.',
  )
  end(', 1 skipped')
}
const browserReport = join(results, 'browser.json')
suite(
  'browser tests',
  'npx',
  ['playwright', 'test', '--config', 'e2e/playwright.config.ts', '--reporter=list,json'],
  { PLAYWRIGHT_JSON_OUTPUT_NAME: browserReport },
  () => {
    const { stats, suites } = JSON.parse(readFileSync(browserReport, 'utf8'))
    return { passed: stats.expected, failed: suites.flatMap(failedSpecs) }
  },
)

end()
