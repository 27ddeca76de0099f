// `npm run bench`: the core's speed, then the browser's.
import { installChromium, installDependencies, run } from './ready.mjs'

installDependencies()
installChromium()
run('npx', ['tsx', 'core/bench/chain.ts'])
run('npx', ['tsx', 'core/bench/tuner.ts'])
run('npx', ['tsx', 'core/bench/uncertainty.ts'])
run('npx', ['tsx', 'core/bench/coverage.ts'])
run('npx', ['tsx', 'core/bench/sheets.ts'])
run('npx', ['tsx', 'core/bench/changes.ts'])
run('npx', ['tsx', 'core/bench/plan.ts'])
run('npx', ['tsx', 'core/bench/drills.ts'])
run('npx', ['tsx', 'server/bench/diagnosis.ts'])
run('npx', ['tsx', 'server/bench/log.ts'])
run('npx', ['tsx', 'server/bench/waiting.ts'])
run('npx', ['tsx', 'server/bench/live.ts'])
run('npm', ['run', 'build', '-w', 'web', '--silent'])
run('npx', ['tsx', 'e2e/bench/browser.ts'])
