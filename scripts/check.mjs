// `npm run check`: lint, types and the unit tests of what changed, for the inner loop.
import { spawn, spawnSync } from 'node:child_process'
import { installDependencies, root, typesOf } from './ready.mjs'

installDependencies()
const git = (...args) =>
  spawnSync('git', args, { cwd: root, encoding: 'utf8' }).stdout.split('\n').filter(Boolean)
const changed = [
  ...new Set([
    ...git('diff', '--name-only', '--diff-filter=d', 'HEAD'),
    ...git('ls-files', '--others', '--exclude-standard'),
  ]),
]
const code = changed.filter((file) => /\.(ts|tsx|mjs|js)$/.test(file))
const tested = code.filter((file) => !/^(e2e|scripts)\//.test(file))
const written = changed.filter((file) => /\.(ts|tsx|mjs|js|json|md|css|html)$/.test(file))

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

const workspaces = ['core', 'contract', 'server', 'web', 'e2e'].filter(
  (name) => code.length === 0 || code.some((file) => file.startsWith(`${name}/`)) || name === 'web',
)
const results = await Promise.all([
  ...(code.length > 0 ? [step('lint', 'npx', ['eslint', '--max-warnings', '0', ...code])] : []),
  ...(written.length > 0
    ? [step('format', 'npx', ['prettier', '--check', '--ignore-unknown', ...written])]
    : []),
  step('who imports whom', 'npm', ['run', '--silent', 'imports']),
  (async () => {
    for (const name of workspaces)
      if (!(await step(`types of ${name}`, 'npx', typesOf(name)))) return false
    return true
  })(),
  ...(tested.length > 0
    ? [
        step('tests of what changed', 'npx', [
          'vitest',
          'related',
          '--run',
          '--reporter=dot',
          '--exclude',
          'server/test/**',
          ...tested,
        ]),
      ]
    : []),
])
process.exit(results.every(Boolean) ? 0 : 1)
