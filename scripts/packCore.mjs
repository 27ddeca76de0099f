// `npm run pack-core`: the core as a library of its own, saltline-core-<version>.tgz: ESM and types, no dependencies. Installs it
// into an empty folder, runs its examples there, and tells what solving one chain costs a browser.
import {
  cpSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs'
import { spawnSync } from 'node:child_process'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliCompressSync, gzipSync } from 'node:zlib'
import { build } from 'esbuild'
import { root, run } from './ready.mjs'

const MOST_KB = 25

const { version } = JSON.parse(readFileSync(join(root, 'core/package.json'), 'utf8'))
const folder = mkdtempSync(join(tmpdir(), 'saltline-core-'))
const lib = join(folder, 'lib')
try {
  mkdirSync(lib)
  run('npx', ['tsc', '-p', 'core/tsconfig.lib.json', '--outDir', join(lib, 'dist')])
  cpSync(join(root, 'core/examples'), join(lib, 'examples'), { recursive: true })
  cpSync(join(root, 'docs/how-it-computes.md'), join(lib, 'how-it-computes.md'))
  writeFileSync(
    join(lib, 'package.json'),
    JSON.stringify(
      {
        ...{ name: '@saltline/core', version, type: 'module', sideEffects: false },
        description:
          'Solves a transmission line chain: from transmitter to antenna, plane by plane',
        exports: { '.': { types: './dist/index.d.ts', default: './dist/index.js' } },
        engines: { node: '>=20.10' },
      },
      null,
      2,
    ),
  )
  run('npm', ['pack', '--silent', '--pack-destination', root], { cwd: lib })
  const file = join(root, `saltline-core-${version}.tgz`)

  const user = join(folder, 'user')
  mkdirSync(user)
  writeFileSync(join(user, 'package.json'), '{"type":"module","private":true}')
  run('npm', ['install', '--silent', '--no-audit', '--no-fund', '--offline', file], { cwd: user })
  const installed = readdirSync(join(user, 'node_modules')).filter((name) => !name.startsWith('.'))
  if (installed.join() !== '@saltline') throw new Error(`It brought ${installed.join(', ')}.`)
  for (const example of readdirSync(join(root, 'core/examples'))) {
    cpSync(join(root, 'core/examples', example), join(user, example))
    const { status, stdout, stderr } = spawnSync('node', [example], { cwd: user, encoding: 'utf8' })
    if (status !== 0 || stdout.trim() === '') throw new Error(`${example}: ${stderr}`)
  }
  // Types are read by a program that knows nothing of this clone.
  writeFileSync(
    join(user, 'typed.ts'),
    `import { solveChain, type Solution } from '@saltline/core'\nexport const of = (chain: Parameters<typeof solveChain>[0]): Solution => solveChain(chain, { frequencyHz: 7e6, powerW: 100 })\n`,
  )
  run(
    join(root, 'node_modules/.bin/tsc'),
    [
      ...[
        '--noEmit',
        '--strict',
        '--skipLibCheck',
        'false',
        '--module',
        'nodenext',
        '--target',
        'es2023',
      ],
      ...['--types', '', 'typed.ts'],
    ],
    { cwd: user },
  )
  const { outputFiles } = await build({
    stdin: {
      contents: "import { solveChain } from '@saltline/core'; globalThis.solve = solveChain",
      resolveDir: user,
    },
    ...{ bundle: true, minify: true, format: 'esm', write: false },
  })
  const [{ contents }] = outputFiles
  const kb = (bytes) => (bytes.length / 1000).toFixed(1)
  const [gzip, brotli] = [gzipSync(contents), brotliCompressSync(contents)]
  console.log(
    `It is at ${file}. Solving one chain costs ${kb(contents)} kB, ${kb(gzip)} kB with gzip, ${kb(brotli)} kB with brotli.`,
  )
  if (gzip.length > MOST_KB * 1000) {
    console.error(`More than ${MOST_KB} kB.`)
    process.exitCode = 1
  }
} finally {
  rmSync(folder, { recursive: true, force: true })
}
