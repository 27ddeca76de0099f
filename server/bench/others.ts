/** How long others wait while something goes on. */
import { fork } from 'node:child_process'
import { resolve } from 'node:path'

/** The value that a share of all values stays below. */
export const shareOf = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[
    Math.min(values.length - 1, Math.floor(values.length * share))
  ] ?? NaN

/**
 * Does something, while a process of its own asks the server for something small all the time.
 *
 * @param base the server’s address
 * @param cookie of one who is signed in, where that is asked for
 * @returns what came of it, and how long each of the others waited, ms
 */
export async function othersWhile<T>(
  base: string,
  run: () => Promise<T>,
  cookie = '',
): Promise<{ value: T; waits: number[] }> {
  const prober = fork(resolve(import.meta.dirname, 'prober.ts'), [base, cookie], {
    execArgv: ['--import', 'tsx'],
  })
  const message = () => new Promise<unknown>((done) => prober.once('message', done))
  try {
    await message()
    prober.send('begin')
    const value = await run()
    const told = message()
    prober.send('end')
    return { value, waits: (await told) as number[] }
  } finally {
    prober.kill()
  }
}
