// `npm run screenshots`: every picture in docs/screenshots, made from the demo data.
import { installChromium, installDependencies, run } from './ready.mjs'

installDependencies()
if (!installChromium()) process.exit(1)
run('npm', ['run', 'build', '--silent'])
run('npx', ['tsx', 'e2e/screenshots/take.ts', ...process.argv.slice(2)])
