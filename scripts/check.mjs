// `npm run check`: everything that is quick, for the inner loop: lint, format, types, who imports whom, and the tests of
// what changed. It says which tests it leaves to `npm test`.
import { spawnSync } from 'node:child_process'
import { installDependencies, root } from './ready.mjs'
import { inTurn, step } from './steps.mjs'

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

const script = (title, name) => step(title, 'npm', ['run', '--silent', name], { quiet: true })
const results = await Promise.all([
  inTurn(
    () => script('lint, types and format', 'lint'),
    () => script('who imports whom', 'imports'),
  ),
  ...(tested.length > 0
    ? [
        step(
          'quick tests of what changed',
          'npx',
          [
            ...['vitest', 'related', '--run', '--reporter=dot', '--passWithNoTests'],
            ...['--exclude', '**/*.long.test.ts', ...tested],
          ],
          { quiet: true },
        ),
      ]
    : []),
])
console.log('Not run: long tests (*.long.test.ts) and the browser; npm test runs them.')
process.exit(results.every(Boolean) ? 0 : 1)
