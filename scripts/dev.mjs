// `npm run dev`: the server with the demo station, and the interface that reloads as it is edited.
import { spawn } from 'node:child_process'
import { installDependencies, root } from './ready.mjs'

installDependencies()
const start = (args, options = {}) =>
  spawn('npx', args, { cwd: root, stdio: 'inherit', ...options })
const children = [
  start([
    'tsx',
    'watch',
    'server/src/main.ts',
    '--create',
    '--demo',
    '--db',
    `${root}/data/dev.sqlite`,
  ]),
  start(['vite'], { cwd: `${root}/web` }),
]
const stop = () => children.forEach((child) => child.kill())
process.on('SIGINT', stop)
children.forEach((child) => child.on('exit', stop))
