// `npm run dev`: the server with the demo station, and the interface; both take up what is edited.
import { spawn } from 'node:child_process'
import { installDependencies, root, run } from './ready.mjs'

installDependencies()
run('npm', ['run', 'build', '-w', 'server', '--silent'])
const start = (command, args, options = {}) =>
  spawn(command, args, { cwd: root, stdio: 'inherit', ...options })
const server = ['server/dist/main.mjs', '--create', '--demo', '--db', `${root}/data/dev.sqlite`]
const children = [
  start('node', ['server/build.mjs', '--watch']),
  start('node', ['--watch-path=server/dist', ...server]),
  start('npx', ['vite'], { cwd: `${root}/web` }),
]
const stop = () => {
  children.forEach((child) => child.kill())
  process.exit()
}
process.on('SIGINT', stop)
children.forEach((child) => child.on('exit', stop))
