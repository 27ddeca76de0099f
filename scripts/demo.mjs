// `npm run demo`: installs, builds, adds the demo station where there is none, starts, prints the address.
import { installDependencies, root, run } from './ready.mjs'

installDependencies()
run('npm', ['run', 'build', '-w', 'web', '--silent'])
run('npx', [
  'tsx',
  'server/src/main.ts',
  '--create',
  '--demo',
  '--quiet',
  '--db',
  `${root}/data/demo.sqlite`,
  ...process.argv.slice(2),
])
