// `npm run attack`: attacks of a built server on this machine (server/attack/attack.ts); bounded, loopback only.
import { installDependencies, run } from './ready.mjs'

installDependencies()
run('npm', ['run', 'build', '-w', 'server', '--silent'])
run('npx', ['tsx', 'server/attack/attack.ts', ...process.argv.slice(2)])
