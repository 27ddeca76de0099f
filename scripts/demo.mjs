// `npm run demo`: installs, builds, adds the demo station where there is none, starts, prints the address.
import { installDependencies, root, run } from './ready.mjs'

installDependencies()
run('npm', ['run', 'build', '--silent'])
run('node', [
  'server/dist/main.mjs',
  '--create',
  '--demo',
  '--quiet',
  '--db',
  `${root}/data/demo.sqlite`,
  ...process.argv.slice(2),
])
