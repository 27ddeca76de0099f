#!/usr/bin/env node
/** `saltline`: the server, or one of its other commands. */
import { homedir } from 'node:os'
import { join } from 'node:path'
import { loadServer } from '../src/loadServer.ts'
import { beginSmall } from '../src/work/memory.ts'
import { say } from './say.ts'

/** Where an installed Salt Line keeps its database (XDG Base Directory Specification). */
const home = join(process.env['XDG_DATA_HOME'] ?? join(homedir(), '.local', 'share'), 'saltline')
const DATABASE = process.env['SALTLINE_DB'] ?? join(home, 'saltline.sqlite')

/** Options of the server are the server's own to read; what it is not given is where an installed one has it. */
function served(argv: readonly string[], demo: boolean): string[] {
  const file = demo ? join(home, 'demo.sqlite') : DATABASE
  return [
    ...(argv.some((word) => /^--db(=|$)/.test(word)) ? [] : ['--db', file]),
    '--create',
    ...(demo ? ['--demo'] : []),
    ...argv,
  ]
}

/** What stands behind an option, in either way of writing it. */
function optionOf(words: readonly string[], name: string): string | undefined {
  const at = words.lastIndexOf(name)
  return at >= 0
    ? words[at + 1]
    : words.findLast((word) => word.startsWith(`${name}=`))?.slice(name.length + 1)
}

const argv = process.argv.slice(2)
const [verb, ...rest] = argv

if (verb === 'serve' || verb === 'demo') {
  const options = served(
    rest.filter((word) => word !== '--service'),
    verb === 'demo',
  )
  if (rest.includes('--service')) {
    const backups = optionOf(options, '--backups')
    if (backups !== undefined) process.env['SALTLINE_BACKUPS'] = backups
    const { serviceUnit } = await import('./service.ts')
    const command = [process.execPath, process.argv[1]!, 'serve', ...options]
    say(serviceUnit(command, optionOf(options, '--db')!).trimEnd())
  } else {
    // The server is much to read, and most commands need nothing of it.
    const begun = beginSmall()
    await loadServer().serve(options, begun)
  }
} else {
  // The rest is much to read, and the server needs nothing of it.
  const { command } = await import('./commands.ts')
  await command(argv, DATABASE)
}
