// `npm run bench`: the core's speed, then the browser's.
import { installChromium, installDependencies, run } from './ready.mjs'

installDependencies()
installChromium()
run('npm', ['run', 'build', '--silent'])
run('npx', ['tsx', 'core/bench/chain.ts'])
run('npx', ['tsx', 'core/bench/tuner.ts'])
run('npx', ['tsx', 'core/bench/phases.ts'])
run('npx', ['tsx', 'core/bench/uncertainty.ts'])
run('npx', ['tsx', 'core/bench/coverage.ts'])
run('npx', ['tsx', 'core/bench/sheets.ts'])
run('npx', ['tsx', 'core/bench/runs.ts'])
run('npx', ['tsx', 'core/bench/stops.ts'])
run('npx', ['tsx', 'core/bench/changes.ts'])
run('npx', ['tsx', 'core/bench/plan.ts'])
run('npx', ['tsx', 'core/bench/drills.ts'])
run('npx', ['tsx', 'server/bench/diagnosis.ts'])
run('npx', ['tsx', 'server/bench/log.ts'])
run('npx', ['tsx', 'server/bench/waiting.ts'])
run('npx', ['tsx', 'server/bench/million.ts'])
run('npx', ['tsx', 'server/bench/live.ts'])
run('npx', ['tsx', 'e2e/bench/browser.ts'])
// How long an installed one takes to answer, and how much it holds.
run('node', ['scripts/tryPackage.mjs'], {
  env: { ...process.env, SALTLINE_BUILT: '1', SALTLINE_MINUTE: '1' },
})
run('node', ['scripts/packCore.mjs'])
