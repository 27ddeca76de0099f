// `npm run check`: everything that is quick, for the inner loop: lint, format, types, who imports whom, and the tests of
// what changed. It says which tests it leaves to `npm test`.
import { spawn, spawnSync } from 'node:child_process'
import { installDependencies, root } from './ready.mjs'

installDependencies()
const git = (...args) =>
  spawnSync('git', args, { cwd: root, encoding: 'utf8' }).stdout.split('\n').filter(Boolean)
const changed = [
  ...new Set([
    ...git('diff', '--name-only', '--diff-filter=d', 'HEAD'),
    ...git('ls-files', '--others', '--exclude-standard'),
  ]),
]
const tested = changed.filter(
  (file) => /\.(ts|tsx|mjs|json)$/.test(file) && /^(core|contract|server|web)\//.test(file),
)

/** Each runs beside the others; its output is shown whole when it ends. */
function step(title, command, args) {
  return new Promise((done) => {
    const own = spawn(command, args, { cwd: root })
    let output = ''
    own.stdout.on('data', (text) => (output += text))
    own.stderr.on('data', (text) => (output += text))
    own.on('close', (status) => {
      console.log(`${status === 0 ? 'ok    ' : 'FAILED'} ${title}`)
      if (status !== 0) console.log(output)
      done(status === 0)
    })
  })
}

const script = (title, name) => step(title, 'npm', ['run', '--silent', name])
const inTurn = async (...steps) => {
  let ok = true
  for (const each of steps) ok = (await each()) && ok
  return ok
}
const results = await Promise.all([
  inTurn(
    () => script('lint and format', 'lint'),
    () => script('types', 'types'),
    () => script('who imports whom', 'imports'),
  ),
  ...(tested.length > 0
    ? [
        step('quick tests of what changed', 'npx', [
          ...['vitest', 'related', '--run', '--reporter=dot', '--passWithNoTests'],
          ...['--exclude', '**/*.long.test.ts', ...tested],
        ]),
      ]
    : []),
])
console.log('Not run: long tests (*.long.test.ts) and the browser; npm test runs them.')
process.exit(results.every(Boolean) ? 0 : 1)
