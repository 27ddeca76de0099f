/** Stopping work between two statements, which is the only place where a thread may be left. */

let flag: Int32Array | null = null

/** From here on this thread looks at the flag before every statement; another task brings another one. */
export function heedStop(asked: Int32Array): void {
  flag = asked
  throwIfStopped()
}

/** @throws Error where this thread was asked to stop; a transaction is rolled back by it */
export function throwIfStopped(): void {
  if (flag && Atomics.load(flag, 0) === 1) throw new Error('It was stopped before its end.')
}

/** Does what must be done even by a thread that is to stop: it takes back what that thread had begun. */
export async function heedless<T>(run: () => Promise<T>): Promise<T> {
  const asked = flag
  flag = null
  try {
    return await run()
  } finally {
    flag = asked
  }
}
