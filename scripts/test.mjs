// `npm test`: installs what is missing, then lint, types, the packages, unit and server tests, browser tests. Unit tests beside
// browser tests take as long on two cores: both kinds fill them.
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { installChromium, installDependencies } from './ready.mjs'
import { step } from './steps.mjs'

installDependencies()
const chromium = installChromium()

const results = mkdtempSync(join(tmpdir(), 'saltline-tests-'))
let passed = 0
let failed = 0
/** What failed, named once more at the end, where it is read. */
const failures = []

/** A step that is one test in itself. */
async function check(title, script) {
  if (
    await step(title, 'npm', ['run', '--silent', script], {
      quiet: true,
      env: { SALTLINE_BUILT: '1' },
    })
  )
    passed++
  else fail(title)
}

function fail(name) {
  failed++
  failures.push(name)
}

/** A runner that writes a report: its tests are counted; a run without a report is a failure. */
async function suite(title, command, args, env, count) {
  console.log(`\n── ${title}`)
  const ok = await step(title, command, args, { env, live: true })
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

async function checks() {
  await check('lint, types and format', 'lint')
  await check('who imports whom', 'imports')
  await check('what nobody uses', 'unused')
}

function unit() {
  const report = join(results, 'unit.json')
  return suite(
    'unit and server tests',
    'npx',
    ['vitest', 'run', '--reporter=dot', '--reporter=json', `--outputFile.json=${report}`],
    { SALTLINE_BUILT: '1' },
    () => {
      const { numPassedTests, testResults } = JSON.parse(readFileSync(report, 'utf8'))
      return { passed: numPassedTests, failed: testResults.flatMap(failuresOfFile) }
    },
  )
}

function browser() {
  const report = join(results, 'browser.json')
  return suite(
    'browser tests',
    'npx',
    ['playwright', 'test', '--config', 'e2e/playwright.config.ts', '--reporter=list,json'],
    { PLAYWRIGHT_JSON_OUTPUT_NAME: report },
    () => {
      const { stats, suites } = JSON.parse(readFileSync(report, 'utf8'))
      return { passed: stats.expected, failed: suites.flatMap(failedSpecs) }
    },
  )
}

/** The package holds the reference. */
async function packages() {
  await check('the reference of the core, every link followed', 'reference')
  await check('the package, installed and used', 'try-package')
  await check('the core as a library', 'pack-core')
}

await check('build', 'build')
// Each of them fills one core.
await Promise.all([checks(), packages()])
await unit()
if (chromium) {
  await browser()
  end()
}
console.error(
  '\nThe browser tests were not run: there is no Chromium. What to install is said above.',
)
end(', 1 skipped')
